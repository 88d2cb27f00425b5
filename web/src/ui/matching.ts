/** Something that can be chosen: what it stands for, and what people read. */
export interface Choice {
  value: string
  label: string
}

const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase().trim()
const words = (text: string) => plain(text).split(/[\s·.,;:/&()’'"-]+/)

/**
 * The choices that a text may mean: the one that reads just so; else those of which it begins
 * the label or a word; else those that have it anywhere. Case and accents do not matter.
 */
export function matching(choices: Choice[], text: string): Choice[] {
  const typed = plain(text)
  if (!typed) return choices
  const labels = choices.map((c) => plain(c.label))
  const exact = choices.filter((_, i) => labels[i] === typed)
  if (exact.length) return exact
  const begins = choices.filter(
    (c, i) => labels[i].startsWith(typed) || words(c.label).some((word) => word.startsWith(typed)),
  )
  return begins.length ? begins : choices.filter((_, i) => labels[i].includes(typed))
}

/** Why a text is no choice, in words; empty where it is just one. */
export function unsettled(choices: Choice[], text: string): string {
  const found = matching(choices, text)
  if (found.length === 1) return ''
  if (!found.length) return `Nothing here is “${text.trim()}”.`
  const some = found.slice(0, 3).map((c) => c.label)
  return `“${text.trim()}” may be ${some.join(', ')}${found.length > 3 ? ' …' : ''}. Write more, or choose one.`
}
