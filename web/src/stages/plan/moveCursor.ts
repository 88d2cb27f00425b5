import { usePlan } from './plan'

/** Enter selects the block under the keyboard; arrows go to the nearest block that way. */
export function moveCursor(key: string, event: KeyboardEvent): void {
  const plan = usePlan()
  if (event.key === 'Enter' || event.key === ' ') {
    event.preventDefault()
    plan.select(key, event.shiftKey)
    return
  }
  const ways: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  }
  const way = ways[event.key]
  if (!way || event.shiftKey || event.ctrlKey || event.altKey || event.metaKey) return
  event.preventDefault()
  const next = nearest(event.currentTarget as HTMLElement, way)
  if (!next) return
  plan.cursor = next.dataset.block!
  next.focus()
}

function nearest(from: HTMLElement, [dx, dy]: [number, number]): HTMLElement | undefined {
  const here = centre(from)
  let best: HTMLElement | undefined
  let least = Infinity
  for (const other of document.querySelectorAll<HTMLElement>('[data-block]')) {
    const there = centre(other)
    const along = (there.x - here.x) * dx + (there.y - here.y) * dy
    const aside = Math.abs((there.x - here.x) * dy) + Math.abs((there.y - here.y) * dx)
    if (other === from || along <= 1) continue
    // Straight ahead counts more than near: up goes up the stack, not to a neighbour.
    const distance = along + aside * 2.5
    if (distance < least) {
      least = distance
      best = other
    }
  }
  return best
}

function centre(e: HTMLElement): { x: number; y: number } {
  const box = e.getBoundingClientRect()
  return { x: box.left + box.width / 2, y: box.top + box.height / 2 }
}
