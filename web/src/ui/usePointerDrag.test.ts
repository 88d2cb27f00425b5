// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { effectScope, type EffectScope } from 'vue'
import { usePointerDrag } from './usePointerDrag'

let scope: EffectScope
let log: string[]
let refuse = false

const pointer = (type: string, x: number, y = 0) =>
  new MouseEvent(type, { clientX: x, clientY: y, button: 0, cancelable: true }) as PointerEvent
const send = (type: string, x: number) => window.dispatchEvent(pointer(type, x))

function drag() {
  return scope.run(() =>
    usePointerDrag<string>({
      begin: (what) => {
        log.push('begin ' + what)
        return !refuse
      },
      move: (what, event, from) => log.push(`move ${what} ${event.clientX - from.x}`),
      drop: (what) => log.push('drop ' + what),
      end: () => log.push('end'),
    }),
  )!
}

beforeEach(() => {
  scope = effectScope()
  log = []
  refuse = false
})
afterEach(() => scope.stop())

describe('usePointerDrag', () => {
  it('begins once the pointer has gone far enough, and ends with a drop', () => {
    const { press, wasDrag } = drag()
    press('bar', pointer('pointerdown', 10))
    send('pointermove', 12)
    expect(log).toEqual([])
    send('pointermove', 20)
    send('pointermove', 30)
    send('pointerup', 30)
    expect(log).toEqual(['begin bar', 'move bar 10', 'move bar 20', 'drop bar', 'end'])
    expect(wasDrag()).toBe(true)
    send('pointermove', 50)
    expect(log).toHaveLength(5)
  })

  it('leaves a click alone', () => {
    const { press, wasDrag } = drag()
    press('bar', pointer('pointerdown', 10))
    send('pointerup', 11)
    expect([log, wasDrag()]).toEqual([[], false])
  })

  it('is given up with Escape, which means nothing else then', () => {
    const { press } = drag()
    let others = 0
    const other = () => others++
    window.addEventListener('keydown', other)
    const escape = () => window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }))
    press('bar', pointer('pointerdown', 0))
    send('pointermove', 9)
    escape()
    send('pointerup', 9)
    expect(log).toEqual(['begin bar', 'move bar 9', 'end'])
    expect(others).toBe(0)
    escape()
    expect(others).toBe(1)
    window.removeEventListener('keydown', other)
  })

  it('does not begin with what cannot be dragged', () => {
    refuse = true
    const { press } = drag()
    press('bar', pointer('pointerdown', 0))
    send('pointermove', 9)
    send('pointermove', 19)
    send('pointerup', 19)
    expect(log).toEqual(['begin bar'])
  })
})
