// @vitest-environment jsdom
import { describe, expect, it } from 'vitest'
import type { NeedsCell } from '@/api/types'
import { chainsPicture, mapPicture, type Ink } from './picture'

const ink: Ink = {
  ink: '#000001',
  quiet: '#000002',
  rule: '#000003',
  panel: '#000004',
  tint: '#000005',
  holds: '#000006',
  tight: '#000007',
  broken: '#000008',
}
const drawn = (svg: string) => {
  const document = new DOMParser().parseFromString(svg, 'image/svg+xml')
  expect(document.querySelector('parsererror')).toBeNull()
  return document
}
const texts = (document: Document) => [...document.querySelectorAll('text')].map((t) => t.textContent)

describe('pictures of needs', () => {
  it('draw each cell with what it counts, and its bar in full', () => {
    const cell = (gives: string, waits: string): NeedsCell | undefined =>
      gives === 'A' && waits === 'B'
        ? { gives, waits, needs: 4, tight: 1, broken: 2, open: 3, soon: 0 }
        : undefined
    const picture = mapPicture(['A', 'B'], (k) => `Team <${k}> & co`, cell, ink)
    const document = drawn(picture.svg)
    expect(texts(document)).toContain('Team <A> & co')
    expect(texts(document)).toContain('4')
    expect(texts(document)).toContain('3?')
    const bars = [...document.querySelectorAll('rect[height="6"]')].map((r) => [
      r.getAttribute('fill'),
      Number(r.getAttribute('width')),
    ])
    expect(bars).toEqual([
      [ink.holds, 17],
      [ink.tight, 17],
      [ink.broken, 34],
    ])
    expect(picture.width).toBe(Number(document.documentElement.getAttribute('width')))
  })

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
