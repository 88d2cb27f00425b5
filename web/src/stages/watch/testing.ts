import type { Step, Watch, WatchItem } from '@/api/types'

/** What concerns somebody, for tests. */

export const course: Step[] = [
  { name: '', state: 'todo' },
  { name: 'building', state: 'doing' },
  { name: 'sea trial', state: 'doing' },
  { name: '', state: 'review' },
  { name: '', state: 'done' },
]
export const item = (key: string, at: number, more: Partial<WatchItem> = {}): WatchItem => ({
  item: key,
  title: key,
  team: 'Lamps',
  state: course[at].state,
  at,
  waits: [],
  tasks: [],
  spent: 0,
  ...more,
})
export const found: Watch = {
  leftOut: 0,
  programs: [
    {
      id: 7,
      name: 'Beacon',
      today: '2027-03-02',
      revision: 5,
      role: 'member',
      person: 'me',
      course,
      moves: ['A', 'C'],
      works: ['A'],
      people: [],
      mine: {
        going: [
          item('A', 1, {
            tasks: [
              { title: 'Draw', at: 0, spent: 0, mine: true, done: true },
              { title: 'Try', at: 1, spent: 0, mine: true },
            ],
          }),
          item('B', 1, {
            tasks: [
              { title: 'Wire', at: 0, spent: 0, mine: true, owner: 'me' },
              { title: 'Show', at: 1, spent: 0 },
            ],
          }),
        ],
        next: [],
        review: [item('C', 3)],
        owed: [],
        off: [],
        hours: 0,
        spent: 0,
      },
    },
  ],
}
