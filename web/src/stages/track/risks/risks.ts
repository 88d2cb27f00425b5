import { defineStore } from 'pinia'
import { computed, nextTick, ref } from 'vue'
import { answer, client } from '@/api/client'
import type { Change, Risk, RiskStanding, RiskWorth } from '@/api/types'
import { caughtUp, useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { amount } from '@/ui/format'
import { inTurn } from '@/ui/inTurn'
import { stillHere } from '@/ui/stillHere'

/** What is done about a risk; none: nothing is decided. */
export const responses = [
  ['', 'Not decided'],
  ['avoid', 'Avoid'],
  ['reduce', 'Reduce'],
  ['pass-on', 'Pass on'],
  ['accept', 'Accept'],
] as const
export const riskStates = [
  ['open', 'may happen'],
  ['happened', 'has happened'],
  ['over', 'cannot happen any more'],
] as const

/** A risk with how it stands and what it is worth. */
export interface RiskRow {
  risk: Risk
  stands: RiskStanding
  /** None while it is played, and where it is not. */
  worth?: RiskWorth
}

/** The lists of a risk. */
export type Lists = {
  [F in 'actions' | 'items' | 'needs' | 'teams' | 'releases' | 'adds' | 'delays']: NonNullable<Risk[F]>
}

/** What a release gains: "4 points, 1.2 days"; empty for nothing to speak of. */
export function gainText(chance: number | undefined, days: number | undefined): string {
  const points = Math.round(1000 * (chance ?? 0)) / 10
  const said: string[] = []
  if (points) said.push(`${points} ${Math.abs(points) === 1 ? 'point' : 'points'}`)
  if (Math.abs(days ?? 0) >= 0.05) said.push(`${amount(days!)} ${amount(days!) === '1' ? 'day' : 'days'}`)
  return said.join(', ')
}

/** The risks of the program, how they stand, and what they are worth. */
export const useRisks = defineStore('risks', () => {
  const store = useProgram()
  /** The one that has the focus, and is open beside the list. */
  const cursor = ref('')

  const deps = [() => store.id, () => store.revision, () => store.today]
  const path = () => ({ params: { path: { id: store.id } } })
  const forget = ([now]: unknown[], [before]: unknown[]) => now !== before
  const stand = useAnswer(
    () => (store.id ? answer(client.GET('/api/v1/programs/{id}/risks', path())) : undefined),
    deps,
    { forget },
  )
  const played = useAnswer(
    () => (store.id ? answer(client.GET('/api/v1/programs/{id}/risk-worths', path())) : undefined),
    deps,
    { wait: 150, forget },
  )
  const worths = computed(() => new Map(played.answer.value?.worths.map((w) => [w.risk, w])))
  /** What all that are played are worth together. */
  const all = computed(() => worths.value.get(''))
  const rows = computed<RiskRow[]>(() => {
    const risks = new Map(store.program.risks?.map((r) => [r.key, r]))
    return (stand.answer.value?.risks ?? []).flatMap((stands) => {
      const risk = risks.get(stands.risk)
      return risk ? [{ risk, stands, worth: worths.value.get(stands.risk) }] : []
    })
  })
  const open = computed(() => rows.value.find((r) => r.risk.key === cursor.value))
  /** Waits until how the risks stand is known as of the revision in view, and shown. */
  async function settled(): Promise<void> {
    await caughtUp(stand.answer, () => store.revision)
    await nextTick()
  }
  const failure = computed(() => stand.failure.value || played.failure.value)

  const scales = computed(() => ({
    chance: stand.answer.value?.scales.chance ?? [],
    impact: stand.answer.value?.scales.impact ?? [],
  }))

  const may = (key: string, field: string) => store.may({ op: 'set', kind: 'risk', key, field })
  const setting = (key: string, field: string, value: unknown): Change => ({
    op: 'set',
    kind: 'risk',
    key,
    field,
    value: value === '' || value === undefined ? null : value,
  })
  const set = (key: string, field: string, value: unknown, label: string): Promise<boolean> =>
    store.apply(`${label} of ${key}`, [setting(key, field, value)])
  const turn = inTurn()
  /** Sets a list of a risk to what is made of the one that it has by then; edits of lists come in turn. */
  const setList = <F extends keyof Lists>(
    key: string,
    field: F,
    to: (now: Lists[F]) => Lists[F],
    label: string,
  ): Promise<boolean> =>
    turn(() => {
      const now = (store.program.risks ?? []).find((r) => r.key === key)?.[field] ?? []
      return set(key, field, to(now as Lists[F]), label)
    })
  /** Rates a risk a step higher or lower, or from nothing to the middle of the scale. */
  async function rate({ risk, stands }: RiskRow, field: 'chance' | 'impact', by: number): Promise<void> {
    const most = scales.value[field].length
    const to = stands[field] ? stands[field] + by : Math.ceil(most / 2)
    if (to < 1 || to > most || !may(risk.key, field)) return
    await stayOn(risk.key, set(risk.key, field, to, field === 'chance' ? 'Chance' : 'Impact'))
  }
  /** Takes a risk to the response before or after its own. */
  async function respond({ risk }: RiskRow, by: number): Promise<void> {
    const at = responses.findIndex(([key]) => key === (risk.response ?? '')) + by
    if (at < 0 || at >= responses.length || !may(risk.key, 'response')) return
    await stayOn(risk.key, set(risk.key, 'response', responses[at][0], 'Response'))
  }
  /** Puts the focus on a risk, once it stands where the last edit has put it. */
  async function focus(key: string): Promise<void> {
    cursor.value = key
    await settled()
    document.querySelector<HTMLElement>(`[data-risk="${CSS.escape(key)}"]`)?.focus()
  }
  /** Keeps the focus on a risk that an edit puts elsewhere, unless somebody has gone on meanwhile. */
  async function stayOn(key: string, did: Promise<unknown>): Promise<void> {
    const still = stillHere()
    await did
    await settled()
    if (still()) await focus(key)
  }
  const person = (key?: string) => store.program.people?.find((p) => p.key === key)?.name ?? ''
  const release = (key: string) => store.program.releases?.find((r) => r.key === key)?.name ?? key
  /** What releases would gain without a risk, or by its response. */
  function gains(worth: RiskWorth | undefined, then = false): string[] {
    return (worth?.releases ?? []).flatMap((r) => {
      const text = then ? gainText(r.chanceThen, r.daysThen) : gainText(r.chance, r.days)
      return text ? [`${release(r.release)} ${text}`] : []
    })
  }

  return {
    rows,
    open,
    all,
    cursor,
    failure,
    asking: played.asking,
    stood: computed(() => !!stand.answer.value),
    scales,
    may,
    set,
    setList,
    rate,
    respond,
    focus,
    settled,
    person,
    gains,
  }
})
