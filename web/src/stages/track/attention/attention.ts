import { defineStore } from 'pinia'
import { computed, nextTick, ref } from 'vue'
import { answer, client } from '@/api/client'
import type { AttentionEntry, Change } from '@/api/types'
import type { Call } from '@/line/calls'
import { caughtUp, useAnswer } from '@/line/useAnswer'
import { useWords } from '@/line/needWords'
import { useProgram } from '@/line/program'
import { toDate } from '@/ui/dates'
import { stillHere } from '@/ui/stillHere'

/** What can be done about an entry in its row, beside putting it off. */
export type Deal = 'assign' | 'size' | 'move' | 'due' | 'free' | 'agree' | 'again' | 'off'
const deals: Record<Call, Deal[]> = {
  overdue: ['due'],
  blocked: ['free', 'move'],
  broken: ['move'],
  ended: [],
  over: [],
  'not-ready': ['size', 'move'],
  agreement: ['agree'],
  unowned: ['assign', 'move'],
  tests: ['assign'],
  build: [],
  risk: ['again'],
  promise: [],
}
/** The key of each, and how it is called. */
export const dealTitles: Record<Deal, [string, string]> = {
  assign: ['a', 'Assign…'],
  size: ['s', 'Size…'],
  move: ['m', 'Move…'],
  due: ['d', 'Due…'],
  free: ['f', 'Free again'],
  agree: ['g', 'Agree'],
  again: ['l', 'Look again…'],
  off: ['z', 'Put off…'],
}

/** What needs somebody now, and what is done about it in place. */
export const useAttention = defineStore('attention', () => {
  const store = useProgram()
  /** The entry that has the focus. */
  const cursor = ref('')
  /** What is being said about it, in its row. */
  const editing = ref<Deal>()
  /** Of which kind alone; empty: all. */
  const kind = ref<Call | ''>('')
  const team = ref('')
  /** Of what costs this release the most; empty: of all. */
  const release = ref('')

  const found = useAnswer(
    () =>
      store.id
        ? answer(client.GET('/api/v1/programs/{id}/attention', { params: { path: { id: store.id } } }))
        : undefined,
    [() => store.id, () => store.revision, () => store.today],
    { wait: 30, forget: ([now], [before]) => now !== before },
  )
  const all = computed(() => found.answer.value?.entries ?? [])
  const ofTeam = computed(() =>
    all.value.filter(
      (e) =>
        (!team.value || e.team === team.value || e.another === team.value) &&
        (!release.value || e.release === release.value),
    ),
  )
  const entries = computed(() => ofTeam.value.filter((e) => !kind.value || e.kind === kind.value))
  /** How many of each kind there are that were not put off. */
  const counts = computed(() => {
    const n = new Map<Call, number>()
    for (const e of ofTeam.value) if (!e.off) n.set(e.kind, (n.get(e.kind) ?? 0) + 1)
    return n
  })

  const set = (of: 'item' | 'risk', key: string, field: string, value: unknown): Change => ({
    op: 'set',
    kind: of,
    key,
    field,
    value: value === '' ? null : value,
  })
  const field: Partial<Record<Deal, string>> = {
    assign: 'assignee',
    size: 'size',
    move: 'iteration',
    due: 'due',
    free: 'blocked',
  }
  const { words, say } = useWords()
  /** The need of an entry, with the word that says yes to it, if there is one for who is signed in. */
  function yesTo(e: AttentionEntry) {
    const need = store.program.needs?.find((n) => n.item === e.item && n.needs === e.needs)
    const word = need && words({ ...need, by: e.by }).yes
    return word && { need, word }
  }
  /** Whether who is signed in may do something about an entry. */
  function may(e: AttentionEntry, what: Deal): boolean {
    if (what === 'off') return store.may({ op: e.off ? 'remove' : 'add', kind: 'snooze' })
    if (what === 'again') return store.may({ op: 'set', kind: 'risk', key: e.risk, field: 'again' })
    if (what === 'agree') return !!yesTo(e)
    return store.may({ op: 'set', kind: 'item', key: e.item, field: field[what] })
  }
  /** What can be done about an entry; of an item that has a size it is not asked again. */
  const dealsOf = (e: AttentionEntry): Deal[] =>
    ([...deals[e.kind], 'off'] as Deal[]).filter(
      (what) =>
        (what !== 'size' || store.items.get(e.item ?? '')?.size === undefined) &&
        (what === 'off' || !e.off) &&
        may(e, what),
    )

  /** Begins to do something about an entry; what needs no more words is done at once. */
  async function deal(e: AttentionEntry, what: Deal): Promise<void> {
    if (what === 'free') await done(e, `${e.item} is free again`, [set('item', e.item!, 'blocked', '')])
    else if (what === 'agree') {
      const to = yesTo(e)
      if (to && (await say(to.need, to.word))) await go(e)
    } else if (what === 'off' && e.off)
      await done(e, 'Take up again', [{ op: 'remove', kind: 'snooze', key: e.id }])
    else {
      cursor.value = e.id
      editing.value = what
    }
  }
  /** Says who, how large, where or when. */
  async function tell(e: AttentionEntry, what: Deal, value: string | number): Promise<void> {
    editing.value = undefined
    if (what === 'again') await done(e, `Look at ${e.risk} again`, [set('risk', e.risk!, 'again', value)])
    else if (what === 'move') {
      await store.mean({
        do: 'place',
        label: `Move ${e.item}`,
        placements: [{ item: e.item!, ...(value && { iteration: String(value) }) }],
      })
      await go(e)
    } else
      await done(e, `${dealTitles[what][1].replace('…', '')} ${e.item}`, [
        set('item', e.item!, field[what]!, value),
      ])
  }
  /** Puts it off for some days. */
  async function putOff(e: AttentionEntry, days: number, why: string): Promise<void> {
    editing.value = undefined
    const until = toDate(store.todayDay + days)
    const known = store.program.snoozes?.some((s) => s.key === e.id)
    const changes: Change[] = known
      ? [
          { op: 'set', kind: 'snooze', key: e.id, field: 'until', value: until },
          { op: 'set', kind: 'snooze', key: e.id, field: 'why', value: why || null },
        ]
      : [{ op: 'add', kind: 'snooze', key: e.id, value: { key: e.id, until, ...(why && { why }) } }]
    await done(e, `Put off until ${until}`, changes)
  }
  async function done(e: AttentionEntry, label: string, changes: Change[]): Promise<void> {
    if (await store.apply(label, changes)) await go(e)
  }

  async function focus(id: string): Promise<void> {
    cursor.value = id
    await nextTick()
    document.querySelector<HTMLElement>(`[data-call="${CSS.escape(id)}"]`)?.focus()
  }
  /**
   * Goes on to what took the place of an entry, once the list is that of the revision in view, unless somebody has gone
   * elsewhere.
   */
  async function go(e: AttentionEntry): Promise<void> {
    const still = stillHere()
    const at = entries.value.findIndex((x) => x.id === e.id)
    await caughtUp(found.answer, () => store.revision)
    const list = entries.value
    const there = list[at]?.id === e.id ? e.id : list[Math.min(at, list.length - 1)]?.id
    if (there && still()) await focus(there)
  }

  return {
    cursor,
    editing,
    kind,
    team,
    release,
    entries,
    counts,
    failure: found.failure,
    known: computed(() => !!found.answer.value),
    dealsOf,
    deal,
    tell,
    putOff,
    focus,
  }
})
