// @vitest-environment jsdom
import { describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import BacklogGrid from './BacklogGrid.vue'
import { useBacklog } from './backlog'
import { listed, rollup, withBacklog } from './testing'
import { useProgram } from '@/line/program'
import { smallProgram } from '@/line/testing'
import { drawn, eventually, typist } from '@/ui/testing'

/** The list of a program as it is drawn, and somebody at it with mouse and keyboard. */
async function grid() {
  const small = smallProgram()
  const { pinia, answers, asked } = withBacklog({
    ...small,
    settings: { ...small.settings, priorities: ['Now', 'Later'] },
    releases: [
      { key: 'R1', name: 'First Light' },
      { key: 'R2', name: 'Full Chain' },
    ],
    items: [
      { key: 'F', title: 'Lenses', kind: 'feature', release: 'R1' },
      ...small.items!.map((item) => ({
        ...item,
        ...(item.key === 'x' && { parent: 'F', tags: ['fog'], state: 'todo' as const }),
        ...(item.key === 'y' && { tags: ['lens'] }),
      })),
    ],
  })
  useProgram().facts.items!.find((f) => f.key === 'x')!.release = 'R1'
  const backlog = useBacklog()
  await backlog.open()
  const fields = ['key', 'title', 'kind', 'state', 'iteration', 'release', 'priority', 'due', 'tags']
  backlog.view = { ...backlog.view, columns: fields.map((field) => ({ field })) }
  const host = drawn(BacklogGrid, {}, pinia)
  await nextTick()
  const hand = typist()
  const cell = (key: string, field: string) =>
    host.querySelector<HTMLElement>(`[data-item="${key}"] .cell.${field}`)!
  return {
    backlog,
    answers,
    grid: host.querySelector<HTMLElement>('[role=grid]')!,
    cell,
    type: (keys: string) => hand.keyboard(keys),
    /** Presses a cell, as one does before writing into it. */
    go: async (key: string, field: string) => {
      await hand.click(cell(key, field))
      host.querySelector<HTMLElement>('[role=grid]')!.focus()
    },
    rows: () => [...host.querySelectorAll<HTMLElement>('[data-item]')].map((row) => row.dataset.item),
    offered: () => [...document.querySelectorAll('.choices [role=option]')].map((o) => o.textContent!.trim()),
    refused: () => document.querySelector('.choices [role=alert]')?.textContent,
    /** What was entered: item, field and text. */
    entered: () =>
      asked
        .filter((a) => a.path.endsWith('/do/enter'))
        .map((a) => a.body.intent as { keys: string[]; fields: string[]; cells: string[][] })
        .map(({ keys, fields, cells }) => [keys.join(' '), fields[0], cells[0][0]]),
  }
}

describe('a cell where one chooses', () => {
  it('takes all that was typed, and what only one choice can be', async () => {
    const { go, type, offered, entered, grid: list } = await grid()
    await go('x', 'kind')
    await type('spi')
    expect(offered()).toEqual(['spike'])
    await type('ke{Enter}')
    await go('x', 'release')
    await type('full{Enter}')
    await eventually(() =>
      expect(entered()).toEqual([
        ['x', 'kind', 'spike'],
        ['x', 'release', 'R2'],
      ]),
    )
    expect(document.activeElement).toBe(list)
  })

  it('takes nothing that is unclear, and stays open until it is clear or left as it was', async () => {
    const { go, type, cell, offered, refused, entered, grid: list } = await grid()
    await go('x', 'state')
    await type('do{Enter}')
    expect(offered()).toEqual(['doing', 'done'])
    expect(refused()).toBe('“do” may be doing, done. Write more, or choose one.')
    await type('ne{Enter}')
    await eventually(() => expect(entered()).toEqual([['x', 'state', 'done']]))
    await go('x', 'kind')
    await type('chore{Enter}')
    expect(refused()).toBe('Nothing here is “chore”.')
    await type('{Escape}')
    expect(cell('x', 'kind').textContent).toBe('story')
    expect(document.activeElement).toBe(list)
    expect(entered()).toHaveLength(1)
  })

  it('says so where somebody goes elsewhere with something unclear in it', async () => {
    const { go, type, entered } = await grid()
    await go('x', 'state')
    await type('do')
    await go('y', 'title')
    expect(useProgram().notice?.text).toBe('State of x: “do” may be doing, done. Write more, or choose one.')
    expect(entered()).toEqual([])
  })

  it('is gone through with arrows, from what is there, and offers nothing that is closed', async () => {
    const { go, type, offered, entered } = await grid()
    await go('x', 'iteration')
    await type('{Enter}')
    expect(offered()).toEqual(['none', 'A·2', 'A·3', 'A·4'])
    await type('{ArrowDown}{Enter}')
    await go('x', 'state')
    await type('{Enter}{ArrowDown}{Enter}')
    await eventually(() =>
      expect(entered()).toEqual([
        ['x', 'iteration', '3'],
        ['x', 'state', 'doing'],
      ]),
    )
  })

  it('shows a release that comes with the feature as such, and can have none or that one again', async () => {
    const { go, type, cell, entered } = await grid()
    expect(cell('x', 'release').textContent).toBe('First Light')
    expect(cell('x', 'release').title).toBe('First Light, as what it is part of')
    await go('x', 'release')
    await type('none{Enter}')
    await go('x', 'release')
    await type('as what{Enter}')
    await eventually(() =>
      expect(entered()).toEqual([
        ['x', 'release', ''],
        ['x', 'release', 'inherited'],
      ]),
    )
  })

  it('knows the priorities of the program', async () => {
    const { go, type, entered } = await grid()
    await go('x', 'priority')
    await type('la{Enter}')
    await eventually(() => expect(entered()).toEqual([['x', 'priority', 'Later']]))
  })
})

describe('a cell where one writes', () => {
  it('offers what the program has, for the last of several too', async () => {
    const { go, type, offered, entered } = await grid()
    await go('x', 'tags')
    await type('bell, le')
    expect(offered()).toEqual(['lens'])
    await type('{ArrowDown}{Enter}{Enter}')
    await eventually(() => expect(entered()).toEqual([['x', 'tags', 'bell, lens']]))
  })

  it('reads dates as people write them', async () => {
    const { go, type, refused, entered } = await grid()
    await go('x', 'due')
    await type('soon{Enter}')
    expect(refused()).toContain('“soon” is no date.')
    await type('{Control>}a{/Control}12.5.{Enter}')
    await go('y', 'due')
    await type('+2w{Tab}')
    await eventually(() =>
      expect(entered()).toEqual([
        ['x', 'due', '2027-05-12'],
        ['y', 'due', '2027-04-06'],
      ]),
    )
  })
})

describe('the keyboard', () => {
  it('picks rows one by one, which stay picked while one looks elsewhere', async () => {
    const { go, type, backlog } = await grid()
    await go('x', 'title')
    await type(' ')
    await go('z', 'title')
    await type(' ')
    await go('y', 'title')
    expect(backlog.selection).toEqual(['x', 'z'])
    await type('{Escape}')
    expect(backlog.selection).toEqual(['y'])
  })

  it('closes the group that it is in, and opens it again', async () => {
    const { go, type, backlog, rows } = await grid()
    backlog.list = listed(['x', 'y', 'z'], {
      groups: [
        { ...rollup, value: 'R', title: 'First', from: 0 },
        { ...rollup, value: '', title: 'None', from: 2 },
      ],
    })
    await nextTick()
    await go('x', 'title')
    await type('{Alt>}{ArrowLeft}{/Alt}')
    expect(rows()).toEqual(['z'])
    await type('{Alt>}{ArrowRight}{/Alt}')
    expect(rows()).toEqual(['x', 'y', 'z'])
  })
})

describe('heads and trees', () => {
  /** What something says; figures keep together with their units. */
  const words = (of: HTMLElement) => of.textContent!.replace(/\s+/g, ' ')

  const sum = {
    items: 71,
    done: 15,
    sizes: [{ team: 'A', unit: 'points' as const, size: 61, done: 13, rough: 4 }],
    unsized: 2,
  }

  it('say what items add up to, closed too', async () => {
    const { backlog, rows, grid: list } = await grid()
    backlog.list = listed(['x', 'y', 'z'], {
      groups: [{ ...sum, value: 'R1', title: 'First Light', from: 0 }],
    })
    await nextTick()
    const head = list.querySelector<HTMLElement>('[data-group="R1"]')!
    expect(words(head)).toContain('First Light71 items · 21 % done · A 61 pt + 4 pt rough · 2 without size')
    await typist().click(head.querySelector('button')!)
    expect(rows()).toEqual([])
    expect(words(head)).toContain('First Light71 items')
  })

  it('stand in the columns of a group in a tree, which closes what is in it', async () => {
    const { backlog, cell, rows } = await grid()
    backlog.list = listed(['F', 'x', 'y'], { depths: [0, 1, 0], rollups: { F: sum } })
    backlog.view = {
      ...backlog.view,
      columns: ['title', 'kind', 'state', 'release'].map((field) => ({ field })),
    }
    await nextTick()
    expect(words(cell('F', 'state'))).toBe('21 % done')
    await typist().click(cell('F', 'title').querySelector('[aria-label="Close"]')!)
    expect(rows()).toEqual(['F', 'y'])
  })
})

it('begins another list at its top, and goes on in the same', async () => {
  const { backlog, grid: box } = await grid()
  box.scrollTop = 300
  await backlog.refresh()
  await nextTick()
  expect(box.scrollTop).toBe(300)
  backlog.words = 'lens'
  await backlog.refresh()
  await eventually(() => expect(box.scrollTop).toBe(0))
})
