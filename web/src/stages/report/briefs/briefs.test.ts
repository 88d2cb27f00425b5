// @vitest-environment jsdom
import { describe, expect, it } from 'vitest'
import { linked, markdownOf } from './briefs'

const titles: Record<string, string> = { 'LC-8': 'Lamp "one"', 'FE-2': 'Surge' }
const link = (text: string) =>
  linked(
    text,
    (key) => titles[key],
    (key) => `/i/${key}`,
  )

describe('keys in words of one’s own', () => {
  it('become links where there is such an item', () => {
    expect(link('See LC-8, and FE-2.')).toBe('See [LC-8](/i/LC-8 "Lamp ’one’"), and [FE-2](/i/FE-2 "Surge").')
    expect(link('**LC-8**')).toBe('**[LC-8](/i/LC-8 "Lamp ’one’")**')
    expect(link('(LC-8)\nFE-2')).toBe('([LC-8](/i/LC-8 "Lamp ’one’"))\n[FE-2](/i/FE-2 "Surge")')
  })
  it('stay as they are elsewhere', () => {
    for (const text of ['XX-1', 'a/LC-8', '[LC-8](/x)', 'LC-88', 'COVID-19 and LC-8x'])
      expect(link(text)).toBe(text)
  })
})

describe('what the plan says, as words to be written over', () => {
  it('is Markdown', () => {
    expect(markdownOf({ text: 'One.' })).toBe('One.')
    expect(markdownOf({ list: ['a', 'b'] })).toBe('- a\n- b')
    expect(markdownOf({ head: ['What', 'n'], figures: [false, true], rows: [['a | b', '1']] })).toBe(
      '| What | n |\n| --- | ---: |\n| a \\| b | 1 |',
    )
  })
})
