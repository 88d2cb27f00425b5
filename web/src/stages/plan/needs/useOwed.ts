import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answer, client } from '@/api/client'
import type { OwedNeed } from '@/api/types'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { useWords } from '@/line/needWords'

/** What the map of needs shows. */
export type NeedsShown = 'map' | 'when' | 'owed' | 'chains' | 'table'

/** Who owes whom, and what is owed of what is looked at: the address says, so that a link opens the same. */
export function useOwed() {
  const store = useProgram()
  const route = useRoute()
  const router = useRouter()
  const text = (key: string): string => (typeof route.query[key] === 'string' ? route.query[key] : '')
  /** The team that gives, and the one that waits; empty: any. */
  const gives = computed(() => text('gives'))
  const waits = computed(() => text('waits'))
  /** The week in which it is wanted, by its Monday; empty: any. */
  const week = computed(() => text('week'))
  /** What is shown: who owes whom, the same by week, what somebody owes and waits for, the longest chains, or all needs as a table. */
  const show = computed<NeedsShown>(() => {
    const asked = text('show')
    return asked === 'when' || asked === 'owed' || asked === 'chains' || asked === 'table' ? asked : 'map'
  })
  /** Whose needs are shown, of `owed`: a team's, a person's; neither: one's own. */
  const of = computed(() => ({ team: text('team'), person: text('person') }))
  /** Which work the chains end with, of `chains`. */
  const work = computed(() => text('of'))
  const look = (
    at: { of?: string; gives?: string; waits?: string; week?: string; team?: string; person?: string },
    shown: NeedsShown = show.value,
  ) =>
    void router.replace({
      query: {
        as: 'needs',
        show: shown === 'map' ? undefined : shown,
        of: at.of || undefined,
        team: at.team || undefined,
        person: at.person || undefined,
        gives: at.gives || undefined,
        waits: at.waits || undefined,
        week: at.week || undefined,
      },
    })

  /** What is looked at, as the server takes it. */
  const looked = () => ({
    path: { id: store.id },
    query: {
      gives: gives.value || undefined,
      waits: waits.value || undefined,
      week: week.value || undefined,
      team: of.value.team || undefined,
      person: of.value.person || undefined,
      mine: show.value === 'owed' && !of.value.team && !of.value.person ? true : undefined,
    },
  })
  const looks = [gives, waits, week, show, () => of.value.team, () => of.value.person]
  const at = [() => store.id, () => store.revision, () => store.today]
  const map = useAnswer(
    () =>
      store.id
        ? answer(client.GET('/api/v1/programs/{id}/needs/map', { params: { path: { id: store.id } } }))
        : undefined,
    at,
    { wait: 20, forget: ([now], [before]) => now !== before },
  )
  const owed = useAnswer(
    (signal) =>
      store.id
        ? answer(client.GET('/api/v1/programs/{id}/needs/owed', { params: looked(), signal }))
        : undefined,
    [...at, ...looks],
    {
      wait: 20,
      forget: ([id, , , ...at], [was, , , ...before]) => id !== was || String(at) !== String(before),
    },
  )

  const odds = useAnswer(
    (signal) =>
      store.id
        ? answer(client.GET('/api/v1/programs/{id}/needs/odds', { params: looked(), signal }))
        : undefined,
    [...at, ...looks],
    { wait: 100, forget: ([now], [before]) => now !== before },
  )
  const named = (o: { item: string; needs: string; gives: string; waits: string }) =>
    `${o.item} ${o.needs} ${o.gives} ${o.waits}`
  const chances = computed(() => new Map((odds.answer.value?.odds ?? []).map((o) => [named(o), o.chance])))
  /** The chance that it comes in time; undefined while it is played, and where there is no day. */
  const chance = (o: OwedNeed) => chances.value.get(named(o))

  const cells = computed(
    () => new Map((map.answer.value?.cells ?? []).map((c) => [`${c.gives} ${c.waits}`, c])),
  )
  const cell = (from: string, to: string) => cells.value.get(`${from} ${to}`)
  /** The teams with needs across, in the order of the program; '' for what is nobody's. */
  const teams = computed(() => {
    const there = new Set((map.answer.value?.cells ?? []).flatMap((c) => [c.gives, c.waits]))
    const known = (store.program.teams ?? []).map((t) => t.key)
    return [...known, ''].filter((key) => there.has(key))
  })
  const name = (key: string) => (key ? (store.teams.get(key)?.name ?? key) : 'Nobody')

  const { words, say } = useWords()
  return {
    gives,
    waits,
    week,
    show,
    of,
    work,
    looked,
    look,
    map,
    owed,
    chance,
    cells,
    cell,
    teams,
    name,
    words,
    say,
  }
}
