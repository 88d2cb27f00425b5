// @vitest-environment jsdom
import { describe, expect, it } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { RequestError } from '@/api/client'
import { useAnswer } from './useAnswer'

/** A question whose answers come when the test says so. */
function asked() {
  const open: {
    about: string
    answer: (x: string) => void
    fail: (e: Error) => void
    signal?: AbortSignal
  }[] = []
  const ask = (about: string, signal?: AbortSignal) =>
    new Promise<string>((answer, fail) => open.push({ about, answer, fail, signal }))
  return { open, ask }
}

const settled = () => new Promise((r) => setTimeout(r))

describe('useAnswer', () => {
  it('asks again when what it depends on changes, and drops what was overtaken', async () => {
    const { open, ask } = asked()
    const about = ref('a')
    const scope = effectScope()
    const { answer, asking } = scope.run(() => useAnswer((signal) => ask(about.value, signal), [about]))!
    about.value = 'b'
    await nextTick()
    expect(open.map((x) => x.signal?.aborted)).toEqual([true, false])
    expect(open.map((x) => x.about)).toEqual(['a', 'b'])
    open[1].answer('of b')
    await settled()
    open[0].answer('of a')
    await settled()
    expect([answer.value, asking.value]).toEqual(['of b', false])
    about.value = 'c'
    await nextTick()
    expect([answer.value, asking.value]).toEqual(['of b', true])
    scope.stop()
    expect(open[2].signal?.aborted).toBe(true)
    open[2].answer('of c')
    await settled()
    expect(answer.value).toBe('of b')
  })

  it('says in words what went wrong, until it is asked again', async () => {
    const { open, ask } = asked()
    const about = ref('a')
    const { answer, failure } = effectScope().run(() => useAnswer(() => ask(about.value), [about]))!
    open[0].fail(new RequestError('There is no such program.', 404))
    await settled()
    expect(failure.value).toBe('There is no such program.')
    about.value = 'b'
    await nextTick()
    expect(failure.value).toBe('')
    open[1].answer('of b')
    await settled()
    expect(answer.value).toBe('of b')
  })

  it('asks nothing where there is no question, and forgets what was about something else', async () => {
    const { open, ask } = asked()
    const about = ref('a')
    const { answer } = effectScope().run(() =>
      useAnswer(() => (about.value ? ask(about.value) : undefined), [about], {
        forget: ([x], [y]) => x !== y,
      }),
    )!
    open[0].answer('of a')
    await settled()
    about.value = 'b'
    await nextTick()
    expect(answer.value).toBeUndefined()
    open[1].answer('of b')
    await settled()
    about.value = ''
    await nextTick()
    expect([answer.value, open.length]).toEqual([undefined, 2])
  })
})
