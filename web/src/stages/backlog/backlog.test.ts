// @vitest-environment jsdom
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import { listed, rollup, withBacklog } from './testing'

let { answers, asked } = {} as ReturnType<typeof withBacklog>

beforeEach(() => ({ answers, asked } = withBacklog()))

const drawn = () =>
  useBacklog().lines.map((l) =>
    l.type === 'item'
      ? l.item.key
      : l.type === 'group'
        ? `[${l.group.title}]`
        : l.type === 'cut'
          ? `--${l.odds}`
          : '+',
  )

describe('the list', () => {
  it('is that of the view, with the columns that there are', async () => {
    const backlog = useBacklog()
    await backlog.open()
    expect(drawn()).toEqual(['x', 'y', 'z'])
    expect(backlog.columns.map((c) => c.field)).toEqual(['key', 'title'])
  })

  it('draws lines where they fall, the surer first, and the line for a new item', async () => {
    const backlog = useBacklog()
    await backlog.open()
    backlog.cuts = [
      { odds: 50, items: 2, after: 'y' },
      { odds: 85, items: 2, after: 'y' },
    ]
    backlog.adding = 'x'
    expect(drawn()).toEqual(['x', '+', 'y', '--85', '--50', 'z'])
    backlog.cuts = [{ odds: 85, items: 0 }]
    backlog.adding = undefined
    expect(drawn()).toEqual(['--85', 'x', 'y', 'z'])
    backlog.view = { ...backlog.view, sort: 'title' }
    expect(drawn()).toEqual(['x', 'y', 'z'])
  })

  it('closes heads, and parents of a tree', async () => {
    const backlog = useBacklog()
    await backlog.open()
    backlog.list = listed(['x', 'y', 'z'], {
      groups: [
        { ...rollup, value: 'R', title: 'First', from: 0 },
        { ...rollup, value: '', title: 'None', from: 2 },
      ],
    })
    expect(drawn()).toEqual(['[First]', 'x', 'y', '[None]', 'z'])
    backlog.toggle('R')
    expect(drawn()).toEqual(['[First]', '[None]', 'z'])
    expect(backlog.shown).toEqual(['z'])
    backlog.toggle('R')
    backlog.list = listed(['x', 'y', 'z', 'done'], { depths: [0, 1, 2, 0] })
    backlog.toggle('x')
    expect(drawn()).toEqual(['x', 'done'])
  })

  it('closes and opens groups from the cursor', async () => {
    const backlog = useBacklog()
    await backlog.open()
    backlog.list = listed(['x', 'y', 'z'], {
      groups: [
        { ...rollup, value: 'R', title: 'First', from: 0 },
        { ...rollup, value: '', title: 'None', from: 2 },
      ],
    })
    backlog.go('x')
    backlog.fold()
    expect(drawn()).toEqual(['[First]', '[None]', 'z'])
    expect(backlog.cursor.key).toBe('z')
    backlog.fold()
    expect(drawn()).toEqual(['[First]', '[None]'])
    backlog.unfold()
    expect(drawn()).toEqual(['[First]', '[None]', 'z'])
    backlog.unfold()
    expect(drawn()).toEqual(['[First]', 'x', 'y', '[None]', 'z'])
    expect(backlog.cursor.key).toBe('x')
  })

  it('keeps what was picked while the cursor goes elsewhere', async () => {
    const backlog = useBacklog()
    await backlog.open()
    backlog.go('x')
    backlog.pick('z')
    expect(backlog.selection).toEqual(['x', 'z'])
    backlog.go('y')
    expect(backlog.selection).toEqual(['x', 'z'])
    backlog.go('z', 0, true)
    expect(backlog.selection).toEqual(['x', 'y', 'z'])
    backlog.unpick()
    expect(backlog.selection).toEqual(['z'])
    backlog.pick('z')
    expect([...backlog.picked]).toEqual(['z'])
    backlog.pick('z')
    expect([...backlog.picked]).toEqual([])
    backlog.pick('y')
    backlog.list = listed(['x'])
    backlog.go('x')
    expect(backlog.selection).toEqual(['x']) // what is picked and not shown does not count
  })

  it('drops an answer that a later question overtook', async () => {
    const backlog = useBacklog()
    await backlog.open()
    let first: (r: Response) => void = () => {}
    vi.stubGlobal('fetch', () => new Promise<Response>((resolve) => (first = resolve)))
    const one = backlog.refresh()
    const late = first
    vi.stubGlobal('fetch', () => Promise.resolve(Response.json(listed(['z']))))
    const two = backlog.refresh()
    await two
    late(Response.json(listed(['x'])))
    await one
    expect(backlog.list?.rows).toEqual(['z'])
  })
})

describe('selecting', () => {
  it('is the rows between the corners, or those picked', async () => {
    const backlog = useBacklog()
    await backlog.open()
    backlog.go('x', 0)
    backlog.go('y', 1, true)
    expect(backlog.selection).toEqual(['x', 'y'])
    expect(backlog.range).toEqual({ top: 0, bottom: 1, left: 0, right: 1 })
    backlog.pick('z')
    expect(backlog.selection).toEqual(['x', 'y', 'z'])
    backlog.pick('x')
    expect(backlog.selection).toEqual(['y', 'z'])
    backlog.go('x')
    expect(backlog.selection).toEqual(['y', 'z'])
    backlog.unpick()
    expect(backlog.selection).toEqual(['x'])
    backlog.pickAll()
    expect(backlog.selection).toEqual(['x', 'y', 'z'])
  })
})

describe('edits', () => {
  it('say what is meant, on the revision that is seen', async () => {
    const backlog = useBacklog()
    await backlog.open()
    useProgram().revision = 7
    await backlog.enter(['x', 'y'], 'size', '3')
    expect(asked[asked.length - 1]).toMatchObject({
      path: '/api/v1/programs/1/do/enter',
      body: { intent: { keys: ['x', 'y'], fields: ['size'], cells: [['3']] }, revision: 7 },
    })
    await backlog.enter(['x'], 'size', '5', 4)
    expect(asked[asked.length - 1]).toMatchObject({
      body: { revision: 4 }, // the one that the cell was opened on
    })
  })

  it('rank one step after the other, each by the list that the last one led to', async () => {
    const backlog = useBacklog()
    await backlog.open()
    backlog.go('z')
    const first = backlog.rank({ to: 'up' })
    const second = backlog.rank({ to: 'up' })
    answers['/api/v1/programs/1/backlog'] = listed(['x', 'z', 'y'])
    await Promise.all([first, second])
    const steps = asked.filter((a) => a.path.endsWith('/do/rank')).map((a) => a.body)
    expect(steps).toMatchObject([
      { intent: { keys: ['z'], shown: ['x', 'y', 'z'] } },
      { intent: { keys: ['z'], shown: ['x', 'z', 'y'] } },
    ])
  })

  it('keeps a view that is picked before all views are known', async () => {
    const backlog = useBacklog()
    const opening = backlog.open()
    backlog.show({ key: 'left', name: 'What is left' })
    await opening
    expect(backlog.view.key).toBe('left')
    await backlog.open()
    expect(backlog.view.key).toBe('left')
  })
})
