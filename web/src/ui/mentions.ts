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

/** A mention in a text: from its @ up to where the name ends. */
export interface Mention {
  at: number
  end: number
  name: string
}

const partOfWord = /^[\p{L}\p{N}_]$/u
const isPart = (char: string | undefined) => char !== undefined && partOfWord.test(char)

/**
 * The mentions of people in a text, in its order, for it to show. The core says who is meant (core/watch,
 * Mentions); its vectors hold this to the same: an @ that begins a word, then the longest name that ends one.
 */
export function mentionsIn(text: string, names: readonly string[]): Mention[] {
  const found: Mention[] = []
  const lower = text.toLowerCase()
  if (lower.length !== text.length) return found // letters that grow: positions would be others
  const byLength = [...new Set(names)].filter(Boolean).sort((a, b) => b.length - a.length)
  for (let at = lower.indexOf('@'); at >= 0; at = lower.indexOf('@', at + 1)) {
    if (isPart([...text.slice(0, at)].at(-1))) continue
    const name = byLength.find((n) => {
      const end = at + 1 + n.length
      return lower.startsWith(n.toLowerCase(), at + 1) && !isPart([...text.slice(end, end + 2)][0])
    })
    if (name) found.push({ at, end: at + 1 + name.length, name })
  }
  return found
}
