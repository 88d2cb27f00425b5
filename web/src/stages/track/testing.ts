import type { UnderWay } from '@/api/types'

export const none = { items: 0, size: 0 }
/** An iteration under way of which nothing is known but its items, for tests. */
export const under = (team: string, items: string[]): UnderWay => ({
  team,
  iteration: '2',
  from: '2027-03-01T00:00:00Z',
  start: none,
  added: none,
  removed: none,
  grown: none,
  shrunk: none,
  total: none,
  done: none,
  left: none,
  doneBefore: none,
  steps: [],
  hours: { start: 0, left: 0, steps: [] },
  days: [],
  gone: 0,
  ideal: [],
  courses: items.map((item) => ({ item })),
  likely: [],
  chances: items.map((item) => ({ item, chance: 0.5 })),
})
