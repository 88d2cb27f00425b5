import type { Listed, Program } from '@/api/types'
import { withProgram } from '@/line/withProgram'

/** What the list of a backlog is answered with, for tests of it. */

export const rollup = { items: 1, done: 0, sizes: [] }
export const listed = (rows: string[], more: Partial<Listed> = {}): Listed => ({
  revision: 0,
  rows,
  sentence: '',
  total: rollup,
  ...more,
})

/** A program that is open, with x, y and z in its list. */
export function withBacklog(program?: Program) {
  const served = withProgram(program)
  Object.assign(served.answers, {
    '/api/v1/backlog-vocabulary': {
      fields: [
        { name: 'key', title: 'Key', sort: 'text', enter: true },
        { name: 'title', title: 'Title', sort: 'text', enter: true },
        { name: 'kind', title: 'Kind', sort: 'choice', enter: true },
        { name: 'state', title: 'State', sort: 'choice', enter: true },
        { name: 'iteration', title: 'Iteration', sort: 'choice', enter: true },
        { name: 'release', title: 'Release', sort: 'choice', enter: true },
        { name: 'priority', title: 'Priority', sort: 'choice', enter: true },
        { name: 'due', title: 'Due', sort: 'day', enter: true },
        { name: 'tags', title: 'Tags', sort: 'texts', enter: true },
      ],
      comparisons: [],
      readyMade: [{ key: 'all', name: 'Everything' }],
      standard: [{ field: 'key' }, { field: 'title' }, { field: 'gone' }],
    },
    '/api/v1/programs/1/private-views': [],
    '/api/v1/programs/1/backlog': listed(['x', 'y', 'z']),
  })
  return served
}
