import { computed, ref } from 'vue'

/** Reads the marks of a drawing one by one: by the arrow keys, or the nearest to the pointer. */
export function useReading<T extends { x: number }>(marks: () => T[]) {
  const at = ref<number>()
  const read = computed(() => (at.value === undefined ? undefined : marks()[at.value]))

  function key(event: KeyboardEvent): void {
    const last = marks().length - 1
    if (last < 0) return
    const to = {
      ArrowLeft: Math.max(0, (at.value ?? last + 1) - 1),
      ArrowRight: Math.min(last, (at.value ?? -1) + 1),
      Home: 0,
      End: last,
    }[event.key]
    if (to === undefined) return
    event.preventDefault()
    at.value = to
  }
  function hover(event: MouseEvent): void {
    const px = event.clientX - (event.currentTarget as Element).getBoundingClientRect().left
    let best: number | undefined
    const all = marks()
    for (let i = 0; i < all.length; i++)
      if (best === undefined || Math.abs(all[i].x - px) < Math.abs(all[best].x - px)) best = i
    at.value = best
  }
  const forget = () => (at.value = undefined)

  return { read, key, hover, forget }
}
