// @vitest-environment jsdom
import { describe, expect, it } from 'vitest'
import { chainsPicture, type Ink } from './picture'

const ink: Ink = {
  ink: '#000001',
  quiet: '#000002',
  holds: '#000006',
}
const drawn = (svg: string) => {
  const document = new DOMParser().parseFromString(svg, 'image/svg+xml')
  expect(document.querySelector('parsererror')).toBeNull()
  return document
}
const texts = (document: Document) => [...document.querySelectorAll('text')].map((t) => t.textContent)

describe('pictures of needs', () => {
  it('draw links one after the other, with the days between', () => {
    const link = { sized: true, critical: 0.25 }
    const chain = {
      days: 10,
      links: [
        { ...link, item: 'a', days: 4, gap: 0 },
        { ...link, item: 'b', days: 5, gap: 1 },
      ],
    }
    const document = drawn(
      chainsPicture(
        [chain],
        () => 'The longest',
        (k) => `Item ${k}`,
        ink,
      ).svg,
    )
    const bars = [...document.querySelectorAll('rect')].map((r) =>
      ['x', 'width'].map((a) => Number(r.getAttribute(a))),
    )
    expect(bars).toEqual([
      [330, 208],
      [330 + 260, 260],
    ])
    expect(texts(document)).toContain('critical in 25 of 100')
  })
})
