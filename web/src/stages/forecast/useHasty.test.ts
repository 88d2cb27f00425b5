import { describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { LARGE, useHasty } from './useHasty'

const program = { id: 1, revision: 1, today: '2027-03-02', items: { size: 0 } }
vi.mock('@/line/program', () => ({ useProgram: () => program }))
vi.mock('@/api/client', () => ({ wordsOf: String }))

const settled = () => new Promise((r) => setTimeout(r))

function ask(items: number) {
  program.items.size = items
  const open: { quick: boolean; about: string; answer: (x: string) => void }[] = []
  const about = ref('a')
  const scope = effectScope()
  const found = scope.run(() =>
    useHasty(
      (quick) => new Promise<string>((answer) => open.push({ quick, about: about.value, answer })),
      () => about.value,
      { wait: 0 },
    ),
  )!
  return { open, about, found, scope }
}

describe('useHasty', () => {
  it('asks once of a program that is answered at once', async () => {
    const { open, found, scope } = ask(LARGE)
    await settled()
    expect(open.map((x) => x.quick)).toEqual([false])
    open[0].answer('whole')
    await settled()
    expect([found.answer.value, found.first.value]).toEqual(['whole', false])
    scope.stop()
  })

  it('has a first answer of a large one, and then the whole', async () => {
    const { open, about, found, scope } = ask(LARGE + 1)
    await settled()
    expect(open.map((x) => x.quick)).toEqual([true])
    open[0].answer('first')
    await settled()
    expect(open.map((x) => x.quick)).toEqual([true, false])
    expect([found.answer.value, found.first.value, found.asking.value]).toEqual(['first', true, true])
    open[1].answer('whole')
    await settled()
    expect([found.answer.value, found.first.value]).toEqual(['whole', false])

    // About something else, the first answer of before is not taken for one.
    about.value = 'b'
    await nextTick()
    await settled()
    expect(open.at(-1)).toMatchObject({ quick: true, about: 'b' })
    expect(found.answer.value).toBeUndefined()
    scope.stop()
  })
})
