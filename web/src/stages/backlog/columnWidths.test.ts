import { describe, expect, it } from 'vitest'
import { fit } from './columnWidths'

const standard = [
  'rank',
  'key',
  'title',
  'kind',
  'feature',
  'team',
  'role',
  'size',
  'release',
  'iteration',
  'state',
  'needs',
  'readiness',
].map((field) => ({ field }))
const total = (columns: { width: number }[]) => columns.reduce((n, c) => n + c.width, 0)
const fields = (columns: { field: string }[]) => columns.map((c) => c.field)

describe('columns', () => {
  it('are as wide as usual where there is room, or it is not known', () => {
    expect(total(fit(standard, 0, true))).toBe(1266)
    expect(fit(standard, 2000, true)).toEqual(fit(standard, 0, true))
  })

  it.each([400, 560, 700, 845, 1000, 1215])('fit into %i pixels, and keep what one plans by', (room) => {
    const shown = fit(standard, room, true)
    if (room > 560) expect(total(shown)).toBeLessThanOrEqual(room)
    for (const field of ['rank', 'key', 'title', 'size', 'release', 'iteration', 'state'])
      expect(fields(shown)).toContain(field)
    expect(shown.find((c) => c.field === 'release')!.width).toBe(86)
  })

  it('give way one after the other', () => {
    expect(fields(fit(standard, 845, true))).not.toContain('role')
    expect(fields(fit(standard, 845, true))).toContain('feature')
    expect(fields(fit(standard, 700, true))).not.toContain('feature')
  })

  it('stay where somebody has chosen them, and as wide as they were made', () => {
    expect(fields(fit(standard, 400, false))).toEqual(fields(standard))
    expect(fit([{ field: 'title', width: 500 }, { field: 'team' }], 300, true)).toEqual([
      { field: 'title', width: 500 },
    ])
  })
})
