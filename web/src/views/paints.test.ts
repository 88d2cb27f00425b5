import { describe, expect, it } from 'vitest'
import { marks, nextRule, paints, textColours } from './paints'
import type { ColourRule } from '@/api/types'

type Three = [number, number, number]

const linear = (hex: string): Three =>
  [1, 3, 5].map((i) => {
    const x = parseInt(hex.slice(i, i + 2), 16) / 255
    return x <= 0.04045 ? x / 12.92 : ((x + 0.055) / 1.055) ** 2.4
  }) as Three
const luminance = ([r, g, b]: Three) => 0.2126 * r + 0.7152 * g + 0.0722 * b

/** What is left of a colour (linear RGB) without one sort of cones: Machado, Oliveira, Fernandes 2009, severity 1. */
const seen: Record<string, Three[]> = {
  all: [[1, 0, 0], [0, 1, 0], [0, 0, 1]], // prettier-ignore
  'without long': [[0.152286, 1.052583, -0.204868], [0.114503, 0.786281, 0.099216], [-0.003882, -0.048116, 1.051998]], // prettier-ignore
  'without middle': [[0.367322, 0.860646, -0.227968], [0.280085, 0.672501, 0.047413], [-0.01182, 0.04294, 0.968881]], // prettier-ignore
  'without short': [[1.255528, -0.076749, -0.178779], [-0.078411, 0.930809, 0.147602], [0.004733, 0.691367, 0.3039]], // prettier-ignore
}

/** CIE L*a*b* of linear RGB, white D65. */
function lab(rgb: Three): Three {
  const [r, g, b] = rgb.map((x) => Math.min(1, Math.max(0, x)))
  const f = (t: number) => (t > 0.008856 ? Math.cbrt(t) : 7.787 * t + 16 / 116)
  const x = f((0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.95047)
  const y = f(luminance([r, g, b]))
  const z = f((0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.08883)
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)]
}

describe('the colours of rules', () => {
  const all = Object.entries(paints)

  it.each(Object.keys(seen))('stay apart for those who see with %s cones', (who) => {
    const labs = all.map(([name, p]) => {
      const c = linear(p.fill)
      return [
        name,
        lab(seen[who].map((row) => row[0] * c[0] + row[1] * c[1] + row[2] * c[2]) as Three),
      ] as const
    })
    labs.forEach(([a, x], i) =>
      labs.slice(i + 1).forEach(([b, y]) => {
        const far = Math.hypot(x[0] - y[0], x[1] - y[1], x[2] - y[2])
        expect(far, `${a} and ${b}`).toBeGreaterThan(14)
      }),
    )
  })

  it('can be written on', () => {
    for (const [name, p] of all) {
      const [a, b] = [luminance(linear(p.fill)), luminance(linear(textColours[p.text]))].sort((x, y) => y - x)
      expect((a + 0.05) / (b + 0.05), name).toBeGreaterThan(4.5)
    }
  })

  it('differ from rule to rule, and so do the marks', () => {
    const rules: ColourRule[] = []
    for (let i = 0; i < 12; i++) rules.push(nextRule(rules))
    expect(new Set(rules.slice(0, 8).map((r) => r.colour)).size).toBe(8)
    expect(new Set(rules.slice(0, 5).map((r) => r.mark)).size).toBe(Object.keys(marks).length)
    expect(new Set(rules.map((r) => `${r.colour} ${r.mark}`)).size).toBe(12)
  })
})
