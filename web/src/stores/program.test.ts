import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Change } from '@/api/types'
import { useProgram } from './program'
import { smallProgram, snapshotOf, updateOf } from './testing'

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
    'GET 1': () => snapshotOf(smallProgram()),
    'GET steps': { undo: '', redo: '' },
    'GET landings': { revision: 0, plays: 1, releases: [] },
  }
  vi.stubGlobal('EventSource', FakeEvents)
  vi.stubGlobal('fetch', (request: Request) => {
    const name = `${request.method} ${new URL(request.url).pathname.split('/').pop()}`
    asked.push(name)
    const found = answers[name]
    if (found === undefined) return Promise.reject(new Error('no line'))
    if (found instanceof Response) return Promise.resolve(found.clone())
    return Promise.resolve(Response.json(typeof found === 'function' ? found() : found))
  })
})

afterEach(() => vi.unstubAllGlobals())

async function opened() {
  const store = useProgram()
  await store.open(1)
  FakeEvents.last.send('hello', { revision: 0, today: '2027-03-23' })
  return store
}

describe('the program store', () => {
  it('loads a program and listens for its edits', async () => {
    const store = await opened()
    expect(store.status).toBe('ready')
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
    answers['GET 1'] = () => snapshotOf({ ...smallProgram(), name: 'Newer' }, 5)
    FakeEvents.last.send('update', updateOf(4, [rename('new')]))
    await vi.waitFor(() => expect(store.revision).toBe(5))
    expect(store.program.name).toBe('Newer')
  })

  it('loads again when it comes back to another revision, or another day', async () => {
    const store = await opened()
    answers['GET 1'] = () => ({ ...snapshotOf(smallProgram(), 0), today: '2027-03-24' })
    FakeEvents.last.send('beat', { today: '2027-03-24' })
    await vi.waitFor(() => expect(store.today).toBe('2027-03-24'))
    answers['GET 1'] = () => ({ ...snapshotOf(smallProgram(), 9), today: '2027-03-24' })
    FakeEvents.last.send('hello', { revision: 9, today: '2027-03-24' })
    await vi.waitFor(() => expect(store.revision).toBe(9))
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

  it('says whether a program is missing or could not be had', async () => {
    const store = useProgram()
    answers['GET 1'] = Response.json({ detail: 'There is no such program.' }, { status: 404 })
    await store.open(1)
    expect(store.status).toBe('missing')
    delete answers['GET 1']
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
