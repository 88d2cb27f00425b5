// @vitest-environment jsdom
import { afterEach, describe, expect, it } from 'vitest'
import { createApp, defineComponent, h, nextTick, ref, withDirectives, type App } from 'vue'
import { typing } from './typing'

let app: App | undefined
afterEach(() => app?.unmount())

/** A field that shows what is kept, and a hint that an answer may change. */
function field(kept = 'before') {
  const value = ref(kept)
  const hint = ref('')
  const root = document.body.appendChild(document.createElement('div'))
  app = createApp(
    defineComponent(
      () => () =>
        withDirectives(
          h('input', {
            value: value.value,
            placeholder: hint.value,
            onChange: (e: Event) => (value.value = (e.target as HTMLInputElement).value),
          }),
          [[typing]],
        ),
    ),
  )
  app.mount(root)
  const input = root.querySelector('input')!
  const type = (text: string) => {
    input.value = text
    input.dispatchEvent(new Event('input'))
  }
  return { value, hint, input, type }
}

describe('a field half typed', () => {
  it('keeps its text when the page draws itself anew', async () => {
    const { input, hint, type } = field()
    type('half')
    hint.value = 'an answer came'
    await nextTick()
    expect(input.placeholder).toBe('an answer came')
    expect(input.value).toBe('half')
  })

  it('keeps its text over what somebody else enters meanwhile, and enters it', async () => {
    const { input, value, type } = field()
    type('mine')
    value.value = 'theirs'
    await nextTick()
    expect(input.value).toBe('mine')
    input.dispatchEvent(new Event('change'))
    expect(value.value).toBe('mine')
  })

  it('shows what is kept again once it was left', async () => {
    const { input, value, type } = field()
    type('mine')
    input.dispatchEvent(new Event('blur'))
    value.value = 'theirs'
    await nextTick()
    expect(input.value).toBe('theirs')
  })
})
