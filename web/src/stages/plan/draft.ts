import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { answer, client, wordsOf } from '@/api/client'
import type { Drafted, Figures, TriedPlaces, Why } from '@/api/types'
import { count } from '@/ui/format'
import { usePlan } from './plan'
import { roughKey } from './rough'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'

/** One item, or what of it is rough for a team, that a draft would put elsewhere. */
export interface Proposal {
  /** Names the proposal: the item's key, or that of what is rough. */
  key: string
  item: string
  team: string
  from: string
  /** The iteration; none unplaces it. Of what is rough the first one. */
  to: string
  /** Of what is rough: where all of it is to stand. */
  places?: RoughPlaces
  why: Why
  /** The size it was drafted with, where it has none. */
  assumed?: number
}

type RoughPlaces = NonNullable<Drafted['draft']['rough']>[number]['places']

/** What a draft is about, as it is asked for. */
type Options = Omit<TriedPlaces, 'placements' | 'rough' | '$schema'>

/** A draft in view: proposed, not accepted. */
export const useDraft = defineStore('draft', () => {
  const program = useProgram()
  const scenarios = useScenarios()
  const plan = usePlan()
  const visible = ref(false)
  const busy = ref(false)
  /** A first draft is in view, and a better one is looked for. */
  const searching = ref(false)
  /** A better one that was found after somebody had begun to choose from the first. */
  const better = shallowRef<Drafted>()
  let search: AbortController | undefined
  const failure = ref('')
  const onlySelected = ref(false)
  const keepClose = ref(false)
  /** What the draft aims at: what the forecast says of it, or its own dates. */
  const aim = ref<'odds' | 'dates'>('odds')
  const fillTo = ref(100)
  /** Only what is of this release, or of this team, may move; empty: of all. */
  const release = ref('')
  const team = ref('')
  /** So many of each team's next iterations stay as they are. */
  const freeze = ref(0)
  const assumeSizes = ref(true)
  /** Days that teams agreed on are dates to meet. */
  const keepAgreed = ref(true)
  /** What a role, or who is assigned, can carry is a limit too. */
  const roles = ref(false)
  const drafted = shallowRef<Drafted>()
  const accepted = ref<Set<string>>(new Set())
  /** What was accepted of this draft before: the rest still stands to be. */
  const taken = ref<Set<string>>(new Set())

  const proposals = computed<Proposal[]>(() => {
    if (!drafted.value) return []
    const { placements, unplaced, rough } = drafted.value.draft
    const all: Proposal[] = [
      ...placements
        .filter((x) => x.moved)
        .map((x) => ({
          key: x.item,
          item: x.item,
          team: x.team,
          from: x.from ?? '',
          to: x.iteration,
          why: x.why,
          assumed: x.assumed,
        })),
      ...unplaced
        .filter((x) => x.moved)
        .map((x) => ({
          key: x.item,
          item: x.item,
          team: program.items.get(x.item)?.team ?? '',
          from: x.from ?? '',
          to: '',
          why: x.why,
        })),
      ...(rough ?? [])
        .filter((x) => x.moved)
        .map((x) => ({
          key: roughKey(x.item, x.team),
          item: x.item,
          team: x.team,
          from: '',
          to: x.places[0]?.iteration ?? '',
          places: x.places,
          why: x.why,
        })),
    ]
    return all.filter((x) => !taken.value.has(x.key))
  })
  const ticked = computed(() => proposals.value.filter((x) => accepted.value.has(x.key)))
  const byKey = computed(() => new Map(proposals.value.map((x) => [x.key, x])))
  /** The ticked moves, as they are said: of items, and of what is rough. */
  const meant = computed(() => ({
    placements: ticked.value.filter((x) => !x.places).map((x) => ({ item: x.item, iteration: x.to })),
    rough: ticked.value.flatMap((x) =>
      x.places
        ? [
            {
              item: x.item,
              team: x.team,
              places: x.places.map(({ iteration, size }) => ({ iteration, size })),
            },
          ]
        : [],
    ),
  }))
  /** Whether the plan has changed since it was drafted on. */
  const stale = computed(() => drafted.value !== undefined && drafted.value.revision !== program.revision)

  /** What the draft in view was asked with. */
  let options: Options = {}
  /** How good the plan would be with the ticked moves made: played, or the draft's own where all are. */
  const ticking = useAnswer(
    () => {
      const now = drafted.value
      if (!now || stale.value || ticked.value.length === proposals.value.length) return undefined
      if (!ticked.value.length) return Promise.resolve(now.before)
      return answer(
        client.POST('/api/v1/programs/{id}/places/try', {
          params: { path: { id: program.id } },
          body: { ...options, ...meant.value },
        }),
      )
    },
    [drafted, ticked, stale],
    { wait: 120 },
  )
  const after = computed<Figures | undefined>(() =>
    ticked.value.length === proposals.value.length ? drafted.value?.after : ticking.answer.value,
  )

  const ownFill = () => Math.round(program.program.settings.fillTo * 100)
  const mayMove = ({ item, places }: Proposal) =>
    program.may({ op: 'set', kind: 'item', key: item, field: places ? 'roughPlaces' : 'iteration' })
  const open = () => new Set(proposals.value.filter(mayMove).map((x) => x.key))

  function start(): void {
    visible.value = true
    fillTo.value = ownFill()
    onlySelected.value = plan.selection.length > 1
    void draft()
  }

  /** Puts a draft in view, all of it ticked that may be. */
  function show(found: Drafted): void {
    drafted.value = found
    better.value = undefined
    taken.value = new Set()
    accepted.value = open()
  }

  /** Shows the first good draft soon, and then the best that is found. */
  async function draft(): Promise<void> {
    stop()
    busy.value = true
    failure.value = ''
    better.value = undefined
    const mine = (search = new AbortController())
    try {
      const body = {
        // As the program has it means: each team as it has it itself.
        ...(fillTo.value === ownFill() ? {} : { fillTo: fillTo.value / 100 }),
        ...(onlySelected.value && plan.selection.length ? { items: plan.selection } : {}),
        ...(release.value ? { releases: [release.value] } : {}),
        ...(team.value ? { teams: [team.value] } : {}),
        ...(freeze.value ? { freeze: freeze.value } : {}),
        ...(assumeSizes.value ? { assumeSizes: true } : {}),
        ...(roles.value ? { roles: true } : {}),
        ...(keepAgreed.value ? {} : { leaveAgreed: true }),
      }
      const params = { path: { id: program.id } }
      const asked = { keepClose: keepClose.value, aim: aim.value, ...body }
      const ask = (quick: boolean) =>
        answer(
          client.POST('/api/v1/programs/{id}/draft', {
            params,
            body: quick ? { ...asked, quick } : asked,
            signal: mine.signal,
          }),
        )
      if (aim.value === 'odds') {
        const first = await ask(true)
        options = body
        show(first)
        busy.value = false
        searching.value = true
      }
      const ticks = accepted.value
      const found = await ask(false)
      options = body
      if (!searching.value) show(found)
      else if (worth(found) < worth(drafted.value)) {
        // Who has begun to choose goes on with what is chosen from.
        if (accepted.value === ticks && !taken.value.size && !stale.value) show(found)
        else better.value = found
      }
    } catch (error) {
      // Where only the search for better fails, the first good one stands.
      if (!mine.signal.aborted && !searching.value) failure.value = wordsOf(error)
    } finally {
      if (search === mine) busy.value = searching.value = false
    }
  }

  /** By what a draft by odds is measured; keeping close, moves come first. */
  const worth = (x: Drafted | undefined): number =>
    !x ? Infinity : keepClose.value ? x.draft.score.moves : x.after.expectedLateDays

  /** Ends the search: the best so far stays. */
  function stop(): void {
    search?.abort()
    search = undefined
    busy.value = searching.value = false
  }

  function toggle(key: string): void {
    const next = new Set(accepted.value)
    if (!next.delete(key)) next.add(key)
    accepted.value = next
  }

  function tickAll(on: boolean): void {
    accepted.value = on ? open() : new Set()
  }

  /** Takes the ticked moves over, as one edit; the rest of the draft stays to be accepted. */
  async function accept(): Promise<void> {
    stop()
    const now = drafted.value
    const moves = ticked.value
    const rest = proposals.value.length - moves.length
    const reached = after.value
    if (!now) return
    const part = rest > 0 || taken.value.size > 0
    const label = `Accept ${part ? 'part of a draft' : 'a draft'}: ${count(moves.length, 'move')}`
    if (!(await program.mean({ do: 'place', label, ...meant.value }))) return
    // Where others have changed the plan as well, the rest was drafted on another one.
    const alone = program.revision === now.revision + 1
    if (!rest) return discard()
    taken.value = new Set([...taken.value, ...moves.map((x) => x.key)])
    accepted.value = new Set()
    drafted.value = {
      ...now,
      revision: alone ? program.revision : now.revision,
      before: reached ?? now.before,
    }
  }

  /** Lets a new scenario begin with the ticked moves; here nothing moves. */
  function keep(): void {
    stop()
    if (!drafted.value) return
    const label = `A draft: ${count(ticked.value.length, 'move')}`
    scenarios.asked = { begin: { do: 'place', label, ...meant.value }, name: 'As drafted' }
  }

  function discard(): void {
    stop()
    better.value = undefined
    visible.value = false
    drafted.value = undefined
  }

  return {
    visible,
    busy,
    searching,
    better,
    show,
    stop,
    failure,
    onlySelected,
    keepClose,
    aim,
    fillTo,
    release,
    team,
    freeze,
    assumeSizes,
    keepAgreed,
    roles,
    drafted,
    accepted,
    proposals,
    after,
    asking: ticking.asking,
    byKey,
    stale,
    start,
    draft,
    toggle,
    tickAll,
    accept,
    keep,
    discard,
  }
})
