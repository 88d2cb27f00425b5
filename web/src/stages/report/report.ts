import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { answer, client, wordsOf } from '@/api/client'
import type { ChartAsked, ChartDrawn, ChartVocabulary, PageCard, PageShelf, PageWhole } from '@/api/types'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'
import { useKeptSoon } from '@/ui/useKeptSoon'
import { useViews } from '@/views/views'
import type { Part } from './drawing'

/** A page as it is in view: one that is kept, one that comes with Jantrel, or one that is new. */
export interface PageShown {
  /** As the address has it: "12", "ready:manager", "new". */
  of: string
  name: string
  note: string
  cards: PageCard[]
  /** What is known of it where it is kept. */
  head?: PageWhole
}

/** What stands behind a part of a chart, as it is asked for. */
export interface Looked extends Part {
  chart: ChartAsked
  title: string
}

/** Cards of a new page that nobody has begun. */
const nothing = (): PageShown => ({ of: 'new', name: '', note: '', cards: [] })

export const useReport = defineStore('report', () => {
  const store = useProgram()
  const views = useViews()
  const vocabulary = shallowRef<ChartVocabulary>()
  const shelf = shallowRef<PageShelf>()
  const page = ref<PageShown>(nothing())
  /** The program that it is of. */
  const program = ref(0)
  /** Whether cards are moved and sized. */
  const arranging = ref(false)
  /** The card whose settings are open. */
  const chosen = ref('')
  const failure = ref('')
  const saving = ref(false)
  /** A card that was taken away, and where it stood. */
  const gone = shallowRef<{ card: PageCard; at: number }>()
  const looked = shallowRef<Looked>()

  /** How many pages have been opened; of two under way the later one comes into view. */
  let opens = 0
  /** Whether a page is on its way: what is done to the one before would be lost with it. */
  const opening = ref(false)
  const mayEdit = computed(() => !opening.value && (page.value.of === 'new' || !!page.value.head?.mayEdit))
  const here = () => ({ params: { path: { id: store.id } } })
  const onPage = (id: number) => ({ params: { path: { id: program.value, page: id } } })

  async function bring(): Promise<void> {
    vocabulary.value ??= await answer(client.GET('/api/v1/chart-vocabulary'))
    shelf.value = await answer(client.GET('/api/v1/programs/{id}/pages', here()))
  }

  /** Shows the page that the address names; without one, the first of one's own, or else the first ready one. */
  async function open(of: string, chart?: ChartAsked): Promise<void> {
    const turn = ++opens
    opening.value = true
    failure.value = ''
    looked.value = undefined
    chosen.value = ''
    gone.value = undefined
    arranging.value = false
    if (page.value.head?.mayEdit) await soon.now() // before another page comes into view
    soon.done()
    program.value = store.id
    let next: PageShown
    try {
      next = await find(of, chart)
    } catch (error) {
      next = nothing()
      if (turn === opens) failure.value = wordsOf(error)
    }
    if (turn !== opens) return
    page.value = next
    opening.value = false
    if (next.of !== 'new' || failure.value) return
    chosen.value = chart ? next.cards[0].key : ''
    arranging.value = !chart
  }

  /** The page that the address names, with a chart that it asks for. */
  async function find(of: string, chart?: ChartAsked): Promise<PageShown> {
    await bring()
    if (chart)
      return {
        ...nothing(),
        name: 'A question',
        cards: [{ key: '1', kind: 'chart', wide: 12, high: 4, chart }],
      }
    if (of === 'new') return { ...nothing(), name: 'New page' }
    const kept = shelf.value?.pages ?? []
    const wanted = of || String(kept[0]?.id ?? '')
    const ready =
      shelf.value?.ready.find((r) => `ready:${r.key}` === wanted) ??
      (wanted ? undefined : shelf.value?.ready[0])
    if (ready)
      return { of: `ready:${ready.key}`, name: ready.name, note: ready.note ?? '', cards: copy(ready.cards) }
    const head = await answer(client.GET('/api/v1/programs/{id}/pages/{page}', onPage(Number(wanted))))
    return { of: String(head.id), name: head.name, note: head.note ?? '', cards: copy(head.cards), head }
  }

  /** Keeps the page as it is now: as a new one, or over the one that it is. */
  async function keep(
    more: {
      name?: string
      shared?: PageWhole['shared']
      people?: number[]
      anew?: boolean
      leaving?: boolean
    } = {},
  ): Promise<boolean> {
    const { head } = page.value
    const body = {
      version: head?.version,
      name: more.name ?? page.value.name,
      note: page.value.note,
      cards: page.value.cards,
      shared: more.shared ?? head?.shared ?? '',
      people: more.people ?? head?.people ?? [],
    }
    saving.value = true
    soon.done()
    failure.value = ''
    try {
      const whole =
        head && !more.anew
          ? await answer(
              client.PUT('/api/v1/programs/{id}/pages/{page}', {
                ...onPage(head.id),
                body,
                keepalive: more.leaving,
              }),
            )
          : await answer(
              client.POST('/api/v1/programs/{id}/pages', {
                ...here(),
                body: { ...body, version: undefined, ...(more.anew ? { shared: '', people: [] } : {}) },
              }),
            )
      // What was changed meanwhile is kept with the next time.
      page.value.head = whole
      page.value.of = String(whole.id)
      page.value.name = whole.name
      shelf.value = await answer(client.GET('/api/v1/programs/{id}/pages', here()))
      return true
    } catch (error) {
      failure.value = wordsOf(error)
      return false
    } finally {
      saving.value = false
    }
  }

  async function remove(): Promise<boolean> {
    const { head } = page.value
    if (!head) return false
    try {
      await answer(client.DELETE('/api/v1/programs/{id}/pages/{page}', onPage(head.id)))
      return true
    } catch (error) {
      failure.value = wordsOf(error)
      return false
    }
  }

  /** A page that is kept keeps what is done to it by itself, a moment later. */
  const soon = useKeptSoon(async (leaving) => {
    if (saving.value && !leaving) soon.touched()
    else if (page.value.head?.mayEdit) await keep({ leaving })
  }, 500)
  const touched = () => soon.touched()

  const at = (key: string) => page.value.cards.findIndex((c) => c.key === key)

  function add(card: Omit<PageCard, 'key'>): string {
    const key = String(Math.max(0, ...page.value.cards.map((c) => Number(c.key) || 0)) + 1)
    page.value.cards.push({ ...card, key })
    chosen.value = key
    touched()
    return key
  }
  function put(key: string, more: Partial<PageCard>): void {
    const card = page.value.cards[at(key)]
    if (card) Object.assign(card, more)
    touched()
  }
  function take(key: string): void {
    const i = at(key)
    if (i < 0) return
    gone.value = { card: page.value.cards[i], at: i }
    page.value.cards.splice(i, 1)
    if (chosen.value === key) chosen.value = ''
    touched()
  }
  function putBack(): void {
    if (!gone.value) return
    page.value.cards.splice(gone.value.at, 0, gone.value.card)
    gone.value = undefined
    touched()
  }
  /** Moves a card to a place among the others. */
  function move(key: string, to: number): void {
    const i = at(key)
    const place = Math.max(0, Math.min(page.value.cards.length - 1, to))
    if (i < 0 || i === place) return
    const [card] = page.value.cards.splice(i, 1)
    page.value.cards.splice(place, 0, card)
    touched()
  }
  function size(key: string, wide: number, high: number): void {
    const card = page.value.cards[at(key)]
    if (card) put(key, { wide: clamp(card.wide + wide, 2, 12), high: clamp(card.high + high, 1, 8) })
  }

  /** The charts of the page, each once: they are answered together. */
  const charts = computed(() => [
    ...new Set(page.value.cards.flatMap((c) => (c.chart ? [JSON.stringify(c.chart)] : []))),
  ])
  const drawn = useAnswer(
    (signal) => (store.id && charts.value.length ? ask(charts.value, signal) : undefined),
    [() => store.id, charts, () => store.revision, () => store.today, () => views.mine],
    { wait: 20, forget: ([id], [before]) => id !== before },
  )
  async function ask(asked: string[], signal: AbortSignal) {
    const found = await answer(
      client.POST('/api/v1/programs/{id}/charts', {
        ...here(),
        body: { charts: asked.map((text) => JSON.parse(text) as ChartAsked) },
        signal,
      }),
    )
    return { ...found, of: new Map(asked.map((text, i): [string, ChartDrawn] => [text, found.charts[i]])) }
  }
  /** The answer to the chart of a card; nothing while there is none. */
  const drawnOf = (card: PageCard): ChartDrawn | undefined =>
    card.chart && drawn.answer.value?.of.get(JSON.stringify(card.chart))

  return {
    vocabulary,
    shelf,
    page,
    program,
    arranging,
    chosen,
    failure,
    saving,
    gone,
    looked,
    mayEdit,
    drawn,
    drawnOf,
    bring,
    open,
    keep,
    remove,
    touched,
    add,
    put,
    take,
    putBack,
    move,
    size,
  }
})

const clamp = (n: number, least: number, most: number) => Math.max(least, Math.min(most, n))
export const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/** How high a row of the grid is, in pixels, without the gap below it. */
export const ROW = 118
/** Between two of them, in pixels. */
export const GAP = 12
