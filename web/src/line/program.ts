import { defineStore } from 'pinia'
import { watchOnce } from '@vueuse/core'
import { computed, reactive, ref, shallowRef } from 'vue'
import { RequestError, answer, client, clientId, wordsOf } from '@/api/client'
import { once } from '@/api/once'
import { ofLine, showLine, type LineInView } from '@/api/inView'
import { say, type Intent, type Said } from '@/api/intents'
import type {
  Change,
  Details,
  Facts,
  Fit,
  Item,
  Landings,
  Mine,
  Outcome,
  Problem,
  Program,
  Question,
  ScreenShown,
  Update,
  Why,
} from '@/api/types'
import { applyChanges, mergeFacts } from './applyChanges'
import { FactsOfIterations } from './iterationFacts'
import { countsOf, readOutline } from './outline'
import { pair } from './pair'
import { toDay } from '@/ui/dates'
import { listenTo } from './listening'
import { may as mayMake, type Asked } from './may'
import { withAnswer } from './stepAsked'
import { useSession } from './session'
import { fieldInHand, markRefused } from '@/ui/refused'

/** What comes over the line every few seconds. */
interface Beat {
  today: string
  full: boolean
  live: number
}

export type Status = 'loading' | 'ready' | 'missing' | 'failed'

/** The program in view: as the server has it, kept up to date by its events. */
export const useProgram = defineStore('program', () => {
  const id = ref(0)
  const status = ref<Status>('loading')
  const failure = ref('')
  /** Whether the line to the server is up; while it is not, edits are refused. */
  const connected = ref(false)
  /** Whether edits cannot be saved, as the server's disk is full. */
  const full = ref(false)
  const program = shallowRef<Program>({ name: '', settings: { sameIteration: 'same-team', fillTo: 1 } })
  const facts = shallowRef<Facts>({
    iterations: [],
    teams: [],
    needs: [],
    items: [],
  })
  const revision = ref(0)
  const today = ref('')
  const landings = shallowRef<Landings>()
  const undoLabel = ref('')
  const redoLabel = ref('')
  /** The edit of one's own that changed what has begun, and the items: the frame asks why. */
  const askedWhy = ref<{ revision: number; items: string[] }>()
  /** How often reasons were given here: what tells of edits is asked again. */
  const explained = ref(0)
  /** What went wrong with the last edit; the frame shows and clears it. */
  const notice = ref<{ text: string; severity: 'error' | 'warn' | 'info' }>()
  /** What the signed-in account is to the program, and may change. */
  const mine = shallowRef<Mine>({ role: 'viewer', author: '', teams: [], rights: [] })
  const session = useSession()

  let endEvents: (() => void) | undefined

  const todayDay = computed(() => (today.value ? toDay(today.value) : 0))
  const items = computed(() => new Map((program.value.items ?? []).map((x) => [x.key, x])))
  const teams = computed(() => new Map((program.value.teams ?? []).map((x) => [x.key, x])))
  const releases = computed(() => new Map((program.value.releases ?? []).map((x) => [x.key, x])))
  const itemFacts = computed(() => new Map((facts.value.items ?? []).map((x) => [x.key, x])))
  /** Whether teams agree on the needs between them. */
  const agree = computed(() => program.value.settings.agreements !== false)
  const needFacts = computed(() => new Map((facts.value.needs ?? []).map((x) => [pair(x.item, x.needs), x])))
  const teamFacts = computed(() => new Map((facts.value.teams ?? []).map((x) => [x.key, x])))
  const iterationFacts = computed(() => new FactsOfIterations(facts.value.iterations ?? []))

  /** What the standing strip counts. */
  const counts = computed(() =>
    countsOf(program.value, {
      items: itemFacts.value,
      needs: needFacts.value,
      iterations: iterationFacts.value,
    }),
  )

  /** Counts openings: what an earlier one still brings is not taken. */
  let opening = 0
  /** Which line of the program is here. */
  const line = shallowRef<LineInView>({ scenario: 0, at: '' })
  /** Whether it is the past, which is only read. */
  const past = computed(() => !!line.value.at)
  /** Of a scenario: the live plan's newest revision. */
  const live = ref(0)

  async function open(programId: number, of: LineInView = { scenario: 0, at: '' }): Promise<void> {
    close()
    const mineIs = opening
    id.value = programId
    line.value = of
    live.value = 0
    showLine(of)
    revision.value = 0
    status.value = 'loading'
    if (!(await load()) || mineIs !== opening) return
    // It has just answered: until the events say otherwise the line is up, and no
    // notice of a lost one flashes by and shifts the lanes.
    connected.value = true
    if (!past.value) listen() // the past stays as it was
  }

  async function load(): Promise<boolean> {
    const mineIs = opening
    const path = { id: id.value }
    try {
      const [outline, here] = await Promise.all([
        answer(client.GET('/api/v1/programs/{id}/outline', { params: { path } })),
        answer(client.GET('/api/v1/programs/{id}/here', { params: { path, query: { client: clientId } } })),
      ])
      if (mineIs !== opening) return false
      // One that was overtaken by updates says less than what is here.
      if (status.value === 'loading' || outline.revision > revision.value || outline.today !== today.value) {
        const read = readOutline(outline)
        detailed.clear()
        program.value = read.program
        facts.value = read.facts
        revision.value = outline.revision
        today.value = outline.today
      }
      mine.value = here
      undoLabel.value = here.undo
      redoLabel.value = here.redo
      status.value = 'ready'
      void refreshLandings()
      return true
    } catch (error) {
      if (mineIs !== opening) return false
      if (error instanceof RequestError && error.status === 401) session.me = undefined
      status.value = error instanceof RequestError && error.status === 404 ? 'missing' : 'failed'
      failure.value = wordsOf(error)
      return false
    }
  }

  /** Items of which all is here: descriptions, tasks, checks, links, what was said; '' for all items. */
  const detailed = reactive(new Set<string>())
  const hasDetails = (key: string): boolean => detailed.has(key) || detailed.has('')

  /** Brings what opens beside an item, or beside all; what is here already is not asked again. */
  async function bringDetails(key: string): Promise<void> {
    const mineIs = opening
    try {
      // Edits may come in meanwhile: what is brought must be of the revision that is here.
      while (mineIs === opening && !hasDetails(key)) {
        const found: Details = await answer(
          client.GET('/api/v1/programs/{id}/details', {
            params: { path: { id: id.value }, query: key ? { items: [key] } : {} },
          }),
        )
        if (mineIs !== opening) return
        if (found.revision > revision.value) await new Promise((r) => watchOnce(revision, r))
        else if (found.revision === revision.value) takeDetails(key, found)
      }
    } catch {
      // The line is down or the program gone: both are shown already.
    }
  }

  function takeDetails(key: string, found: Details): void {
    const more = new Map(found.items.map((x) => [x.key, x]))
    program.value = {
      ...program.value,
      items: program.value.items?.map((x) => (more.has(x.key) ? { ...x, ...more.get(x.key) } : x)),
      comments: [...(program.value.comments ?? []).filter((c) => key && c.item !== key), ...found.comments],
    }
    detailed.add(key)
  }

  /** Has what a screen was told of a program: it knows nothing else of it, and hears of nothing by itself. */
  function have(shown: ScreenShown): void {
    id.value = shown.program
    program.value = shown.excerpt
    facts.value = { iterations: shown.iterations, teams: [], needs: [], items: [] }
    revision.value = shown.revision
    today.value = shown.today
    landings.value = {
      revision: shown.revision,
      plays: 0,
      releases: shown.landings,
      teams: [],
      expectedLateDays: 0,
    }
    status.value = 'ready'
  }

  /** Whether a change may be made; what may not is dimmed. */
  const may = (asked: Asked): boolean => mayMake(mine.value, program.value, asked)

  function listen(): void {
    endEvents = listenTo(
      ofLine(`/api/v1/programs/${id.value}/events`),
      {
        hello: (data) => {
          connected.value = true
          const hello = JSON.parse(data) as Beat & { revision: number }
          full.value = hello.full
          live.value = hello.live
          if (hello.revision !== revision.value || hello.today !== today.value) void load()
        },
        update: (data) => receive(JSON.parse(data) as Update),
        beat: (data) => {
          const beat = JSON.parse(data) as Beat
          full.value = beat.full
          live.value = beat.live
          if (beat.today !== today.value) void load()
        },
      },
      () => (connected.value = false),
    )
  }

  function close(): void {
    opening++
    endEvents?.()
    endEvents = undefined
    connected.value = false
    askedWhy.value = undefined
    landings.value = undefined
  }

  /** Takes an update in, from the answer to an edit or from the events: whichever comes first. */
  function receive(update: Update): void {
    if (update.revision <= revision.value) return
    if (update.from !== revision.value) {
      void load()
      return
    }
    program.value = applyChanges(program.value, update.changes ?? [])
    facts.value = mergeFacts(facts.value, update.facts)
    revision.value = update.revision
    if (update.why?.length && update.client.endsWith(`:${clientId}`))
      askedWhy.value = { revision: update.revision, items: update.why }
    void refreshLandings()
  }

  /** The opening that the forecast is being asked for. */
  let asking: number | undefined
  /** Asks for the forecast of the newest revision; one question at a time. What comes for another line is dropped. */
  async function refreshLandings(): Promise<void> {
    const mineIs = opening
    if (asking === mineIs) return
    asking = mineIs
    try {
      let last: number | undefined
      // Edits may come in while one is being answered; an answer of a newer revision
      // will do, its update is on the way.
      while (last === undefined || last < revision.value) {
        const found = await answer(
          client.GET('/api/v1/programs/{id}/landings', { params: { path: { id: id.value } } }),
        )
        if (mineIs !== opening) return
        landings.value = found
        if (found.revision === last) break
        last = found.revision
      }
    } catch {
      // The line is down or the program gone: both are shown already.
    } finally {
      if (asking === mineIs) asking = undefined
    }
  }

  type Edited = { update?: Update; undo: string; redo: string }

  /** Sends an edit; undefined if it was refused, which is then shown. */
  async function send<T extends Edited>(
    request: () => Promise<T>,
    handled?: (problem?: Problem) => boolean,
  ): Promise<T | undefined> {
    const field = fieldInHand()
    const refused = (text: string, severity: 'warn' | 'error') => {
      notice.value = { text, severity }
      markRefused(field, text)
    }
    if (past.value) {
      refused('This is the past, which stays as it was.', 'warn')
      return undefined
    }
    if (!connected.value) {
      refused('There is no connection to the server. It is being tried again.', 'warn')
      return undefined
    }
    try {
      const edited = await request()
      full.value = false
      if (edited.update) receive(edited.update)
      undoLabel.value = edited.undo
      redoLabel.value = edited.redo
      return edited
    } catch (error) {
      if (error instanceof RequestError && error.status === 401) session.me = undefined
      if (error instanceof RequestError && error.status === 507) full.value = true
      if (error instanceof RequestError && handled?.(error.problem)) return undefined
      refused(wordsOf(error), 'error')
      return undefined
    }
  }

  /**
   * Applies changes whole or not at all, as they were made on the revision `seen`; false
   * if they were refused, which is then shown.
   */
  async function apply(label: string, changes: Change[], seen = revision.value): Promise<boolean> {
    if (!changes.length) return true
    const body = {
      client: clientId,
      revision: seen,
      label: label.slice(0, 200),
      changes,
    }
    const path = { id: id.value }
    return !!(await send(() =>
      once((header) =>
        answer(client.POST('/api/v1/programs/{id}/changes', { params: { path, header }, body })),
      ),
    ))
  }

  /** What is asked of whoever meant something, before it is done; undefined is the answer of who leaves it. */
  const question = shallowRef<{ ask: Question; answer: (value?: string) => void }>()
  /**
   * Says what is meant, on the revision that is in view or that a cell was opened on;
   * undefined if it was refused, which is then shown unless `handled` takes it. What the server asks first is asked in a
   * dialog, and meant again with the answer; who `asks` it by themselves finds it in the outcome.
   */
  async function mean(
    intent: Intent,
    said: Partial<Said> = {},
    { handled, asks }: { handled?: (problem?: Problem) => boolean; asks?: boolean } = {},
  ): Promise<Outcome | undefined> {
    if (intent.do === 'enter') intent = { ...intent, asks: true }
    const out = await send(() => say(id.value, intent, { revision: revision.value, ...said }), handled)
    if (!out?.ask || said.dry || asks || intent.do !== 'enter') return out
    const { ask } = out
    const value = await new Promise<string | undefined>((answer) => (question.value = { ask, answer }))
    question.value = undefined
    const answers = value === undefined ? undefined : withAnswer(intent.step ?? {}, ask, value)
    return answers && mean({ ...intent, step: answers }, said, { handled })
  }

  const iterationName = (team: string, key: string): string =>
    teams.value.get(team)?.iterations?.find((it) => it.key === key)?.name ?? key

  /** What undo or redo is stuck at: it cannot be taken back or done again, and why. */
  const stuck = ref<{ which: 'undo' | 'redo'; label: string; why: string }>()
  const step = (which: 'undo' | 'redo') => {
    const path = { id: id.value }
    const body = { client: clientId }
    const label = which === 'undo' ? undoLabel.value : redoLabel.value
    return send(
      () =>
        once((header) =>
          answer(client.POST(`/api/v1/programs/{id}/${which}`, { params: { path, header }, body })),
        ),
      (problem) => {
        if (!label || (problem?.status !== 409 && problem?.status !== 422)) return false
        stuck.value = { which, label, why: problem.detail ?? '' }
        return true
      },
    )
  }
  /** Leaves what undo or redo is stuck at as it is, and goes on to the one before. */
  async function stepPast(): Promise<void> {
    const at = stuck.value
    stuck.value = undefined
    if (!at) return
    const body = { client: clientId, what: at.which, label: at.label }
    try {
      const steps = await answer(
        client.POST('/api/v1/programs/{id}/step-past', { params: { path: { id: id.value } }, body }),
      )
      undoLabel.value = steps.undo
      redoLabel.value = steps.redo
    } catch (error) {
      notice.value = { text: wordsOf(error), severity: 'error' }
    }
  }
  const undo = () => step('undo')
  const redo = () => step('redo')

  /** Sets one field of an item. */
  function setItem(item: Item, field: keyof Item, value: unknown, label: string): Promise<boolean> {
    if (item[field] === value) return Promise.resolve(true)
    return apply(label, [{ op: 'set', kind: 'item', key: item.key, field, value: value ?? null }])
  }

  /** Lets an item need another; the other side is asked. */
  const addNeed = (item: string, needs: string): Promise<boolean> =>
    apply(`${item} needs ${needs}`, [
      { op: 'add', kind: 'need', in: item, key: needs, value: { item, needs, agreement: 'asked' } },
    ])

  const reason = (item: string): Promise<Why> =>
    answer(
      client.GET('/api/v1/programs/{id}/reason', { params: { path: { id: id.value }, query: { item } } }),
    )

  /** What placing items of a team would do, and what is rough of an item and stands somewhere. */
  const fits = (team: string, keys: string[], rough?: { item: string; from: string }): Promise<Fit[]> =>
    answer(
      client.GET('/api/v1/programs/{id}/fits', {
        params: {
          path: { id: id.value },
          query: { team, items: keys, rough: rough?.item, from: rough?.from },
        },
      }),
    )

  return {
    id,
    question,
    line,
    past,
    live,
    status,
    failure,
    connected,
    full,
    program,
    facts,
    revision,
    today,
    todayDay,
    landings,
    undoLabel,
    redoLabel,
    notice,
    askedWhy,
    explained,
    mine,
    may,
    items,
    teams,
    releases,
    itemFacts,
    agree,
    needFacts,
    teamFacts,
    iterationFacts,
    counts,
    iterationName,
    hasDetails,
    bringDetails,
    have,
    open,
    close,
    send,
    apply,
    mean,
    undo,
    redo,
    stuck,
    stepPast,
    setItem,
    addNeed,
    reason,
    fits,
  }
})
