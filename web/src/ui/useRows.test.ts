import { describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { useRows } from './useRows'

// What is in sight is 100 pixels high: ten rows of ten.
vi.mock('@vueuse/core', async () => {
  const { ref } = await import('vue')
  return { useElementSize: () => ({ height: ref(100) }) }
})

const box = (scrollTop = 0) => ({ scrollTop, clientHeight: 100 }) as HTMLElement

describe('rows of a long list', () => {
  it('are drawn where they are in sight, and some beyond', () => {
    const rows = useRows(ref(Array.from({ length: 1000 }, (_, i) => i)), 10)
    rows.setBox(box(5000))
    rows.scroll()
    const drawn = rows.visible.value
    expect(drawn[0].index).toBe(490)
    expect(drawn[drawn.length - 1].index).toBeGreaterThanOrEqual(509)
    expect(drawn.length).toBeLessThan(60)
    expect(rows.sheet.value).toMatchObject({ height: '10000px', paddingTop: '4900px' })
  })

  it('are there at once when the list becomes shorter', () => {
    const all = ref(Array.from({ length: 1000 }, (_, i) => i))
    const rows = useRows(all, 10)
    rows.setBox(box(9000))
    rows.scroll()
    all.value = [1, 2, 3]
    expect(rows.visible.value.map((r) => r.data)).toEqual([1, 2, 3])
  })

  it('come into sight, clear of what covers the top', () => {
    const rows = useRows(ref(Array.from({ length: 1000 }, (_, i) => i)), 10)
    const at = box(0)
    rows.setBox(at)
    rows.reveal(50, 10)
    expect(at.scrollTop).toBeGreaterThanOrEqual(50 * 10 + 10 + 10 - 100)
    expect(at.scrollTop).toBeLessThanOrEqual(50 * 10)
    rows.reveal(3)
    expect(at.scrollTop).toBe(30)
    rows.reveal(-1)
    expect(at.scrollTop).toBe(30)
  })
})
