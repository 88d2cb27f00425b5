import type { Item } from '@/api/types'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import { copyOf, enteredAs, fromBlock, toBlock } from './cells'

/** What each key does, for the page that lists them. */
export const gridKeys: [keys: string[], text: string][] = [
  [['←', '→', '↑', '↓'], 'Go from cell to cell; with Shift, select more'],
  [['Home', 'End'], 'First and last column; with Ctrl, first and last row'],
  [['Enter'], 'Edit the cell; again, take it and go down. Writing begins an edit, too'],
  [['Tab'], 'While editing: take it and go to the next field'],
  [['Esc'], 'Leave the cell as it was; or select nothing more'],
  [['Del'], 'Clear the selected cells'],
  [['Ctrl', 'C'], 'Copy the selected cells'],
  [['Ctrl', 'V'], 'Paste a column or a block of cells'],
  [['Ins'], 'New item below; or Ctrl + Enter'],
  [['Space'], 'Pick the row, until Esc; with Ctrl + A, all'],
  [['Alt', '↑', '↓'], 'Rank the selection higher or lower'],
  [['Alt', 'Home', 'End'], 'Rank it to the top or the bottom'],
  [['Alt', '←'], 'Close the group that the cursor is in; with →, open one again'],
  [['Alt', 'S'], 'Split the item'],
  [['Ctrl', 'Del'], 'Delete the selected items'],
  [['/'], 'Find'],
  [['F6'], 'Go to the next region of the page; with Shift, back'],
  [['?'], 'Show these keys'],
]

interface Actions {
  page: () => number
  edit: (typed?: string) => void
  reveal: (key: string) => void
  act: (what: 'delete' | 'split') => void
  /** A cell or a new line has the keyboard. */
  busy: () => boolean
  mayEnter: (item: Item, column: number) => boolean
}

/** The keyboard of the grid, as in a spreadsheet. */
export function useGridKeys(actions: Actions) {
  const store = useProgram()
  const backlog = useBacklog()

  function to(row: number, column: number, extend: boolean): void {
    const key = backlog.shown[Math.max(0, Math.min(backlog.shown.length - 1, row))]
    if (!key) return
    backlog.go(key, Math.max(0, Math.min(backlog.columns.length - 1, column)), extend)
    actions.reveal(key)
  }

  const at = () => ({ row: backlog.places.get(backlog.cursor.key) ?? 0, column: backlog.cursor.column })

  /** Where the cursor goes after an edit. */
  function after(then: 'stay' | 'down' | 'right' | 'left'): void {
    const { row, column } = at()
    if (then === 'down') to(row + 1, column, false)
    if (then !== 'right' && then !== 'left') return
    const step = then === 'right' ? 1 : -1
    const item = store.items.get(backlog.cursor.key)
    for (let next = column + step; item && next >= 0 && next < backlog.columns.length; next += step)
      if (actions.mayEnter(item, next)) return to(row, next, false)
    to(row + step, step > 0 ? firstEntered() : backlog.columns.length - 1, false)
  }

  const firstEntered = () => {
    const item = store.items.get(backlog.cursor.key)
    return Math.max(
      0,
      backlog.columns.findIndex((_, i) => !!item && actions.mayEnter(item, i)),
    )
  }

  function block(): { keys: string[]; fields: string[] } {
    const { top, bottom, left, right } = backlog.range
    const fields = backlog.columns.slice(left, right + 1).map((c) => c.field)
    return { keys: backlog.picks.length ? backlog.selection : backlog.shown.slice(top, bottom + 1), fields }
  }

  function copy(event: ClipboardEvent): void {
    if (actions.busy()) return
    const { keys, fields } = block()
    const rows = keys.map((key) => {
      const item = store.items.get(key)!
      return fields.map((f) => copyOf(f, item, store))
    })
    event.clipboardData?.setData('text/plain', toBlock(rows))
    event.preventDefault()
  }

  /** A single cell fills what is selected; a block goes down and right from the corner. */
  function paste(event: ClipboardEvent): void {
    if (actions.busy()) return
    const text = event.clipboardData?.getData('text/plain') ?? ''
    event.preventDefault()
    if (!text) return
    const cells = fromBlock(text)
    const { top, left, right } = backlog.range
    const single = cells.length === 1 && cells[0].length === 1
    const fields = backlog.columns
      .slice(left, single ? right + 1 : left + Math.max(...cells.map((row) => row.length)))
      .map((c) => enteredAs(c.field))
    if (single) {
      void backlog.edit({
        do: 'enter',
        keys: backlog.selection,
        fields,
        cells: [fields.map(() => cells[0][0])],
      })
      return
    }
    const keys = backlog.shown.slice(top, top + cells.length)
    if (cells.length > keys.length)
      store.notice = {
        text: `${cells.length} rows were copied, and only ${keys.length} are below the cursor. Nothing was pasted; add items first, or import them.`,
        severity: 'warn',
      }
    else
      void backlog.edit({
        do: 'enter',
        keys,
        fields,
        cells: cells.map((row) => fields.map((_, i) => row[i] ?? '')),
      })
  }

  function clear(): void {
    const { keys, fields } = block()
    const entered = [...new Set(fields.map(enteredAs))].filter(
      (f) => backlog.fields.get(f)?.enter && !['key', 'title', 'kind', 'state'].includes(f),
    )
    if (entered.length)
      void backlog.edit({ do: 'enter', keys, fields: entered, cells: [entered.map(() => '')] })
  }

  function down(event: KeyboardEvent): void {
    if (actions.busy()) return
    const { row, column } = at()
    const extend = event.shiftKey
    const ctrl = event.ctrlKey || event.metaKey
    const last = backlog.shown.length - 1
    const moves: Record<string, () => void> = event.altKey
      ? {
          ArrowUp: () => void backlog.rank({ to: 'up' }),
          ArrowDown: () => void backlog.rank({ to: 'down' }),
          Home: () => void backlog.rank({ to: 'top' }),
          End: () => void backlog.rank({ to: 'bottom' }),
          ArrowLeft: () => backlog.fold(),
          ArrowRight: () => backlog.unfold(),
          s: () => actions.act('split'),
        }
      : {
          ArrowUp: () => to(row - 1, column, extend),
          ArrowDown: () => to(row + 1, column, extend),
          ArrowLeft: () => to(row, column - 1, extend),
          ArrowRight: () => to(row, column + 1, extend),
          PageUp: () => to(row - actions.page(), column, extend),
          PageDown: () => to(row + actions.page(), column, extend),
          Home: () => to(ctrl ? 0 : row, ctrl ? column : 0, extend),
          End: () => to(ctrl ? last : row, ctrl ? column : backlog.columns.length - 1, extend),
          Enter: () => (ctrl ? begin() : actions.edit()),
          F2: () => actions.edit(),
          Insert: begin,
          Delete: () => (ctrl ? actions.act('delete') : clear()),
          Backspace: clear,
          Escape: () => backlog.unpick(),
          ' ': () => backlog.pick(backlog.cursor.key),
        }
    let action: (() => void) | undefined = moves[event.key]
    if (ctrl && event.key.toLowerCase() === 'a') action = backlog.pickAll
    const writes = event.key.length === 1 && !ctrl && !event.altKey
    if (!action && writes && event.key !== '/' && event.key !== '?') action = () => actions.edit(event.key)
    if (!action) return
    event.preventDefault()
    action()
  }

  function begin(): void {
    if (store.may({ op: 'add', kind: 'item' })) backlog.adding = backlog.cursor.key
  }

  return { down, copy, paste, after }
}
