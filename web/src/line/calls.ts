import type { AttentionEntry } from '@/api/types'
import { useProgram } from './program'
import { promisedName } from './promised'

export type Call = AttentionEntry['kind']

/** Why something needs somebody, as it is called; in the order of the server's. */
export const callTitles: Record<Call, string> = {
  overdue: 'overdue',
  blocked: 'blocked',
  broken: 'broken need',
  ended: 'not closed',
  over: 'over capacity',
  'not-ready': 'not ready',
  agreement: 'not agreed',
  unowned: 'nobody’s',
  tests: 'tests',
  build: 'red build',
  risk: 'risk',
  promise: 'promise',
}

/** What things that need somebody are called, and where one can see more. */
export function useCalls() {
  const store = useProgram()

  /** What was promised to whom. */
  function promiseName(key: string): string {
    const p = store.program.promises?.find((x) => x.key === key)
    return p ? `${promisedName(store.program, p)}, promised to ${p.to}` : key
  }
  function name(e: AttentionEntry): string {
    if (e.risk) return store.program.risks?.find((r) => r.key === e.risk)?.title ?? e.risk
    if (e.promise) return promiseName(e.promise)
    if (e.item) return store.items.get(e.item)?.title ?? ''
    const team = store.teams.get(e.team ?? '')?.name ?? ''
    return e.iteration ? `${team} ${store.iterationName(e.team ?? '', e.iteration)}` : team
  }
  function open(e: AttentionEntry) {
    const params = { id: store.id }
    if (e.risk) return { name: 'track', params, query: { as: 'risks', risk: e.risk } }
    if (e.promise) return { name: 'forecast', params, query: { ask: 'dates' } }
    if (e.item) return { name: 'backlog', params, query: { item: e.item } }
    return e.kind === 'ended' || e.kind === 'build'
      ? { name: 'track', params, query: { teams: e.team } }
      : { name: 'plan', params }
  }
  return { name, open }
}
