// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, onTestFinished, vi } from 'vitest'
import type { Change } from '@/api/types'
import { useProgram } from './program'
import { detailsOf, here, outlineOf, smallProgram, updateOf } from './testing'
import { eventually } from '@/ui/testing'

/** The event stream, with events sent by hand. */
class FakeEvents extends EventTarget {
  static last: FakeEvents
  static readonly CLOSED = 2
  readyState = 1
  onerror?: () => void
  constructor(readonly url: string) {
    super()
    FakeEvents.last = this
  }
  send(name: string, data: unknown) {
    this.dispatchEvent(new MessageEvent(name, { data: JSON.stringify(data) }))
  }
  close() {
    this.readyState = FakeEvents.CLOSED
  }
}

const rename = (title: string): Change => ({
  op: 'set',
  kind: 'item',
  key: 'x',
  field: 'title',
  value: title,
})

/** Answers by method and the end of the path; a function is asked each time. */
let answers: Record<string, unknown>
let asked: string[]

beforeEach(() => {
  setActivePinia(createPinia())
  asked = []
  answers = {
    'GET outline': () => outlineOf(smallProgram()),
    'GET here': here,
    'GET landings': { revision: 0, plays: 1, releases: [] },
  }
  vi.stubGlobal('EventSource', FakeEvents)
  vi.stubGlobal('fetch', (request: Request) => {
    const name = `${request.method} ${new URL(request.url).pathname.split('/').pop()}`
    asked.push(name)
    const found = answers[name]
    if (found === undefined) return Promise.reject(new Error('no line'))
    if (found instanceof Response) return Promise.resolve(found.clone())
    return Promise.resolve(typeof found === 'function' ? found() : found).then((x) => Response.json(x))
  })
})

async function opened() {
  const store = useProgram()
  onTestFinished(() => store.close()) // or a lost line would be tried again, in the middle of another test
  await store.open(1)
  FakeEvents.last.send('hello', { revision: 0, today: '2027-03-23' })
  return store
}

describe('the program store', () => {
  it('loads a program and listens for its edits', async () => {
    const store = await opened()
    expect([store.status, store.failure]).toEqual(['ready', ''])
    expect(store.connected).toBe(true)
    expect(store.items.get('x')?.title).toBe('x')
    FakeEvents.last.send('update', updateOf(0, [rename('new')]))
    expect(store.revision).toBe(1)
    expect(store.items.get('x')?.title).toBe('new')
  })

  it('takes an update once, from whichever side it comes first', async () => {
    const store = await opened()
    const update = updateOf(0, [
      { op: 'add', kind: 'item', key: 'n', value: { key: 'n', title: 'n', kind: 'story' } },
    ])
    answers['POST changes'] = { update, undo: 'Edit', redo: '' }
    expect(await store.apply('Edit', [rename('new')])).toBe(true)
    FakeEvents.last.send('update', update)
    expect(store.program.items?.filter((x) => x.key === 'n')).toHaveLength(1)
    expect(store.undoLabel).toBe('Edit')
  })

  it('loads again where an update does not follow on what it has', async () => {
    const store = await opened()
    answers['GET outline'] = () => outlineOf({ ...smallProgram(), name: 'Newer' }, 5)
    FakeEvents.last.send('update', updateOf(4, [rename('new')]))
    await eventually(() => expect(store.revision).toBe(5))
    expect(store.program.name).toBe('Newer')
  })

  it('loads again when it comes back to another revision, or another day', async () => {
    const store = await opened()
    answers['GET outline'] = () => ({ ...outlineOf(smallProgram(), 0), today: '2027-03-24' })
    FakeEvents.last.send('beat', { today: '2027-03-24' })
    await eventually(() => expect(store.today).toBe('2027-03-24'))
    answers['GET outline'] = () => ({ ...outlineOf(smallProgram(), 9), today: '2027-03-24' })
    FakeEvents.last.send('hello', { revision: 9, today: '2027-03-24' })
    await eventually(() => expect(store.revision).toBe(9))
  })

  it('refuses edits while the line is down, and asks nothing', async () => {
    const store = await opened()
    FakeEvents.last.onerror?.()
    expect(store.connected).toBe(false)
    asked = []
    expect(await store.apply('Edit', [rename('new')])).toBe(false)
    expect(store.notice?.text).toContain('no connection')
    expect(asked).toEqual([])
    expect(store.items.get('x')?.title).toBe('x')
  })

  it('shows why an edit was refused, and changes nothing', async () => {
    const store = await opened()
    answers['POST changes'] = Response.json({ detail: 'Ann changed it meanwhile' }, { status: 409 })
    expect(await store.apply('Edit', [rename('new')])).toBe(false)
    expect(store.notice).toEqual({ text: 'Ann changed it meanwhile', severity: 'error' })
    expect(store.revision).toBe(0)
  })

  it('shows the program that was asked for last, and hears of no other', async () => {
    const store = useProgram()
    let late: (found: Response) => void = () => {}
    const slow = new Promise<Response>((r) => (late = r))
    answers['GET outline'] = () => outlineOf(smallProgram())
    const fetchNow = globalThis.fetch
    let first = true
    vi.stubGlobal('fetch', (request: Request) => {
      if (!first || !request.url.endsWith('/outline')) return fetchNow(request)
      first = false
      return slow
    })
    const one = store.open(1)
    await store.open(2)
    const stream = FakeEvents.last
    late(Response.json(outlineOf({ ...smallProgram(), name: 'The first' }, 9)))
    await one
    expect([store.id, store.program.name, store.revision]).toEqual([2, 'Small', 0])
    expect(FakeEvents.last).toBe(stream)
    expect(stream.url).toContain('/2/')
  })

  it('shows the forecast of the line in view, not that of one it has left', async () => {
    const late: ((found: unknown) => void)[] = []
    answers['GET landings'] = () => new Promise((r) => late.push(r))
    const store = useProgram()
    await store.open(1)
    await eventually(() => expect(late).toHaveLength(1))
    await store.open(2)
    await eventually(() => expect(late).toHaveLength(2))
    expect(store.landings).toBeUndefined()
    late[1]({ revision: 0, plays: 2, releases: [] })
    await eventually(() => expect(store.landings?.plays).toBe(2))
    late[0]({ revision: 9, plays: 1, releases: [] })
    await new Promise((r) => setTimeout(r))
    expect(store.landings?.plays).toBe(2)
  })

  it('does not go back to an older outline', async () => {
    const store = await opened()
    let answer: (found: unknown) => void = () => {}
    const slow = new Promise((r) => (answer = r))
    answers['GET outline'] = () => slow
    FakeEvents.last.send('hello', { revision: 3, today: '2027-03-23' }) // asks again
    FakeEvents.last.send('update', updateOf(0, [rename('new')]))
    answer(outlineOf(smallProgram(), 0))
    await eventually(() => expect(asked.filter((x) => x === 'GET here')).toHaveLength(2))
    await new Promise((r) => setTimeout(r))
    expect([store.revision, store.items.get('x')?.title]).toEqual([1, 'new'])
  })

  it('brings what opens beside an item when it is opened, of the revision that is here', async () => {
    const store = await opened()
    expect(store.hasDetails('x')).toBe(false)
    const full = smallProgram()
    full.items![0] = { ...full.items![0], description: 'Why', tasks: [{ title: 'Mount' }] }
    full.comments = [{ key: 'c', item: 'x', by: 'Ann', text: 'So?' }]
    answers['GET details'] = () => detailsOf({ ...full, items: full.items!.slice(0, 1) }, store.revision)
    await store.bringDetails('x')
    expect(store.hasDetails('x')).toBe(true)
    expect(store.items.get('x')?.description).toBe('Why')
    expect(store.program.comments).toHaveLength(1)
    asked = []
    await store.bringDetails('x')
    expect(asked).toEqual([])
    // An answer that an edit overtook is asked for again.
    const older = detailsOf(full, 0)
    let times = 0
    answers['GET details'] = () => (times++ ? detailsOf(full, 1) : older)
    FakeEvents.last.send('update', updateOf(0, [rename('new')]))
    await store.bringDetails('')
    expect([times, store.hasDetails('y')]).toEqual([2, true])
  })

  it('counts from the facts of what there is', async () => {
    const store = await opened()
    expect(store.counts.unplaced).toEqual(['z'])
    expect(store.counts.over).toEqual([{ team: 'A', key: '2' }])
    FakeEvents.last.send('update', updateOf(0, [{ op: 'remove', kind: 'item', key: 'z' }]))
    expect(store.counts.unplaced).toEqual([])
  })

  it('says whether a program is missing or could not be had', async () => {
    const store = useProgram()
    answers['GET outline'] = Response.json({ detail: 'There is no such program.' }, { status: 404 })
    await store.open(1)
    expect(store.status).toBe('missing')
    delete answers['GET outline']
    await store.open(1)
    expect(store.status).toBe('failed')
    expect(store.failure).toBe('The server cannot be reached.')
  })

  it('sends nothing where a field keeps its value', async () => {
    const store = await opened()
    asked = []
    const item = store.items.get('x')!
    expect(await store.setItem(item, 'title', 'x', 'Rename x')).toBe(true)
    expect(await store.apply('Nothing', [])).toBe(true)
    expect(asked).toEqual([])
  })
})
