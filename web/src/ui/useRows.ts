import { useElementSize } from '@vueuse/core'
import { computed, ref, type Ref } from 'vue'

/** Rows drawn beyond what is in sight, so that scrolling finds them there. */
const BEYOND = 10

/**
 * Draws only the rows in sight of a long list, all of one height. The box scrolls;
 * the sheet in it is as high as all rows, and its padding stands for those above.
 */
export function useRows<T>(rows: Ref<T[]>, height: number) {
  const box = ref<HTMLElement>()
  const { height: seen } = useElementSize(box)
  const top = ref(0)
  const from = computed(() => {
    // A list that has become shorter is scrolled back by the browser only later.
    const last = Math.max(0, rows.value.length * height - seen.value)
    return Math.max(0, Math.floor(Math.min(top.value, last) / height) - BEYOND)
  })
  const to = computed(() => from.value + Math.ceil(seen.value / height) + 2 * BEYOND)
  const visible = computed(() =>
    rows.value.slice(from.value, to.value).map((data, i) => ({ data, index: from.value + i })),
  )
  const sheet = computed(() => ({
    boxSizing: 'border-box' as const,
    height: `${rows.value.length * height}px`,
    paddingTop: `${from.value * height}px`,
  }))
  const scroll = () => (top.value = box.value?.scrollTop ?? 0)

  /** Scrolls so that a row is in sight, clear of a head of a height that covers the top. */
  function reveal(row: number, head = 0): void {
    const at = box.value
    if (!at || row < 0) return
    const y = row * height
    if (y < at.scrollTop) at.scrollTop = y
    else if (y + height + head > at.scrollTop + at.clientHeight)
      at.scrollTop = y + 2 * height + head - at.clientHeight
    scroll()
  }
  /** For a template's ref. */
  const setBox = (element: unknown) => (box.value = (element as HTMLElement | null) ?? undefined)
  return { box, setBox, visible, sheet, scroll, reveal, seen }
}
