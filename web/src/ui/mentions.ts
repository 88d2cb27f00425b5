/** A mention that is being typed: where its @ stands, and what follows it up to the caret. */
export interface Begun {
  at: number
  text: string
}

/**
 * The mention that is being typed at a caret: the last @ before it that begins a word, where what
 * follows is no longer than a name. What counts as one is the core's to say (core/watch, Mentions).
 */
export function begun(text: string, caret: number): Begun | undefined {
  const before = /(?:^|[^\p{L}\p{N}_])@([^@\n]{0,60})$/u.exec(text.slice(0, caret))
  return before ? { at: caret - before[1].length - 1, text: before[1] } : undefined
}

/** Of people those whose name, or a later word of it, goes on from what is typed; these few at most. */
export function meant<T extends { name: string }>(people: readonly T[], typed: string, most = 6): T[] {
  const start = typed.toLocaleLowerCase()
  const found = people.filter(({ name }) => {
    const lower = name.toLocaleLowerCase()
    return lower !== start && (lower.startsWith(start) || lower.includes(` ${start}`))
  })
  return found.slice(0, most)
}
