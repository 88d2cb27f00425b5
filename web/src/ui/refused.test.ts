// @vitest-environment jsdom
import { afterEach, describe, expect, it } from 'vitest'
import { createApp, defineComponent, h, nextTick, ref, withDirectives, vModelText, type App } from 'vue'
import { fieldInHand, markRefused, useRefusedFields } from './refused'

let app: App | undefined
const revision = ref(0)

/** A page with one of each sort of field, whose changes are all refused a moment later. */
function page() {
  const root = document.createElement('div')
  document.body.append(root)
  const refuse = async () => {
    const field = fieldInHand()
    await Promise.resolve()
    markRefused(field, 'Not so.')
  }
  const model = ref('m')
  app = createApp(
    defineComponent(() => {
      useRefusedFields(revision)
      return () =>
        h('div', { key: revision.value > 99 ? 1 : 0 }, [
          h('input', { id: 'text', title: 'Title', value: 'old', onChange: refuse }),
          h('input', { id: 'tick', type: 'checkbox', checked: true, onChange: refuse }),
          h('select', { id: 'choice', value: 'b', onChange: refuse }, ['a', 'b'].map((v) => h('option', { value: v }, v))), // prettier-ignore
          withDirectives(h('input', { id: 'model', 'onUpdate:modelValue': (v: string) => (model.value = v), onChange: refuse }), [[vModelText, model.value]]), // prettier-ignore
        ])
    }),
  )
  app.mount(root)
  const at = <T extends HTMLElement>(id: string) => root.querySelector<T>(`#${id}`)!
  const change = async (field: HTMLElement) => {
    field.dispatchEvent(new Event('change', { bubbles: true }))
    await Promise.resolve()
    await Promise.resolve()
  }
  return { at, change }
}

afterEach(() => {
  app?.unmount()
  document.body.innerHTML = ''
})

describe('a field that was refused', () => {
  it('keeps what was typed, marked, until it is changed or taken back', async () => {
    const { at, change } = page()
    const field = at<HTMLInputElement>('text')
    field.value = 'new'
    await change(field)
    expect([field.value, field.ariaInvalid ?? field.getAttribute('aria-invalid'), field.title]).toEqual([
      'new',
      'true',
      'Not so.',
    ])
    field.dispatchEvent(new Event('input', { bubbles: true }))
    expect([field.value, field.getAttribute('aria-invalid'), field.title]).toEqual(['new', null, 'Title'])
    await change(field)
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }))
    expect([field.value, field.getAttribute('aria-invalid')]).toEqual(['old', null])
  })

  it('is no longer marked when it says what the plan says', async () => {
    const { at, change } = page()
    const field = at<HTMLInputElement>('text')
    field.value = 'new'
    await change(field)
    revision.value++
    await nextTick()
    await nextTick()
    expect([field.value, field.getAttribute('aria-invalid')]).toEqual(['old', null])
  })

  it('goes back where it is a choice or a tick', async () => {
    const { at, change } = page()
    const [tick, choice] = [at<HTMLInputElement>('tick'), at<HTMLSelectElement>('choice')]
    tick.checked = false
    choice.value = 'a'
    await change(tick)
    await change(choice)
    expect([tick.checked, choice.value]).toEqual([true, 'b'])
  })

  it('is left alone where the page keeps what was typed, and where a component shows it itself', async () => {
    const { at, change } = page()
    const model = at<HTMLInputElement>('model')
    model.value = 'typed'
    await change(model)
    expect([model.value, model.getAttribute('aria-invalid')]).toEqual(['typed', null])
    const own = at<HTMLInputElement>('text')
    own.addEventListener('refused', (event) => event.preventDefault())
    await change(own)
    expect(own.getAttribute('aria-invalid')).toBeNull()
  })
})
