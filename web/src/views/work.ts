import { computed, type ComputedRef } from 'vue'
import { useProgram } from '@/line/program'
import { useViews } from './views'

export interface WorkGroup {
  title: string
  /** What is asked about, as an address holds it ("release:R1"), and its name. */
  of: [value: string, name: string][]
}

/** Kinds of work beside the usual ones that a stage can be asked about. */
export interface WorkKinds {
  milestones?: boolean
}

/**
 * The parts of a program's work that one may ask about: all of it, a release, a milestone, a team, a
 * feature, a view. What is asked for and not there falls back to the first release, or all.
 */
export function useWork(asked: () => string, kinds: WorkKinds = {}) {
  const store = useProgram()
  const views = useViews()
  void views.bring()

  const groups: ComputedRef<WorkGroup[]> = computed(() => [
    { title: '', of: [['all', 'All work']] },
    { title: 'Releases', of: (store.program.releases ?? []).map((r) => [`release:${r.key}`, r.name]) },
    {
      title: 'Milestones',
      of: kinds.milestones ? (store.program.milestones ?? []).map((m) => [`milestone:${m.key}`, m.name]) : [],
    },
    { title: 'Teams', of: (store.program.teams ?? []).map((t) => [`team:${t.key}`, t.name]) },
    {
      title: 'Features',
      of: (store.program.items ?? [])
        .filter((x) => x.kind === 'feature' || x.kind === 'initiative')
        .map((x) => [`item:${x.key}`, `${x.key} ${x.title}`]),
    },
    {
      title: 'Views',
      of: [
        ...[...(views.vocabulary?.readyMade ?? []), ...views.shared].map((v): [string, string] => [
          `view:${v.key}`,
          v.name,
        ]),
        ...views.mine.map((v): [string, string] => [`mine:${v.key}`, v.name]),
      ],
    },
  ])
  const of = computed(() => {
    const value = asked()
    if (groups.value.some((g) => g.of.some(([known]) => known === value))) return value
    return groups.value[1].of[0]?.[0] ?? 'all'
  })
  const kind = computed(() => of.value.split(':')[0])
  const key = computed(() => of.value.slice(kind.value.length + 1))
  const name = computed(() => groups.value.flatMap((g) => g.of).find(([v]) => v === of.value)?.[1] ?? '')
  const release = computed(() =>
    kind.value === 'release' ? store.program.releases?.find((r) => r.key === key.value) : undefined,
  )
  /** The same as a question has it: { release: "R1" }. */
  const scope = computed<Record<string, string | true>>(() => {
    if (kind.value === 'all') return {}
    return kind.value === 'mine' ? { view: key.value, mine: true } : { [kind.value]: key.value }
  })
  return { groups, of, kind, key, name, release, scope }
}
