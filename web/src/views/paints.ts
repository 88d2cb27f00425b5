import type { ColourRule } from '@/api/types'

export type Colour = ColourRule['colour']
export type Mark = NonNullable<ColourRule['mark']>

interface PaintOf {
  label: string
  fill: string
  /** What is written on it: light or dark. */
  text: 'light' | 'dark'
}

/** Colours that stay apart for people who see fewer of them; a test holds it. */
export const paints: Record<Colour, PaintOf> = {
  sand: { label: 'Sand', fill: '#dd9a2a', text: 'dark' },
  sky: { label: 'Sky', fill: '#69b4e6', text: 'dark' },
  kelp: { label: 'Kelp', fill: '#14806a', text: 'light' },
  sun: { label: 'Sun', fill: '#efe36c', text: 'dark' },
  deep: { label: 'Deep', fill: '#1d5596', text: 'light' },
  rust: { label: 'Rust', fill: '#b3401c', text: 'light' },
  heather: { label: 'Heather', fill: '#cf8bb8', text: 'dark' },
  ink: { label: 'Ink', fill: '#333b42', text: 'light' },
}
export const textColours = { light: '#ffffff', dark: '#16283a' } as const

/** Marks, as the path that fills a tile of 8 by 8. */
export const marks: Record<Mark, { label: string; path: string }> = {
  plain: { label: 'Plain', path: '' },
  stripes: { label: 'Stripes', path: 'M-1 5L5 -1H8L-1 8ZM3 9L9 3V6L6 9Z' },
  rungs: { label: 'Rungs', path: 'M0 1H8V3H0ZM0 5H8V7H0Z' },
  dots: {
    label: 'Dots',
    path: 'M1 2a1.5 1.5 0 1 0 3 0a1.5 1.5 0 1 0 -3 0M5 6a1.5 1.5 0 1 0 3 0a1.5 1.5 0 1 0 -3 0',
  },
  checks: { label: 'Checks', path: 'M0 0H4V4H0ZM4 4H8V8H4Z' },
}

/** What a rule's mark is filled with, as MarkDefs draws it; none where it has no mark. */
export const markOf = (rule: Pick<ColourRule, 'colour' | 'mark'> | undefined): string =>
  rule?.mark && rule.mark !== 'plain' ? `url(#mark-${rule.mark}-${paints[rule.colour].text})` : 'none'

/** A rule that looks like none before it, as far as there are enough. */
export function nextRule(rules: readonly ColourRule[]): ColourRule {
  const colours = Object.keys(paints) as Colour[]
  const patterns = Object.keys(marks) as Mark[]
  const at = rules.length
  const free = colours.find((c) => !rules.some((r) => r.colour === c)) ?? colours[at % colours.length]
  return { colour: free, mark: patterns[at % patterns.length], filter: { conditions: [] } }
}
