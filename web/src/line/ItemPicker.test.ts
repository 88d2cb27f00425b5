// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { expect, it } from 'vitest'
import { drawn, eventually, typist } from '@/ui/testing'
import ItemPicker from './ItemPicker.vue'
import { useProgram } from './program'
import { smallProgram } from './testing'

/** A picker, what was picked with it, and its field, which has the focus. */
async function picker() {
  const pinia = createPinia()
  setActivePinia(pinia)
  useProgram().program = smallProgram()
  const picked: string[] = []
  const host = drawn(
    ItemPicker,
    { label: 'Add', onPick: (item: { key: string }) => picked.push(item.key) },
    pinia,
  )
  const input = host.querySelector('input')!
  const user = typist()
  await user.click(input)
  return { picked, input, user }
}

it('takes what was typed on Enter, while the list still shows what was typed before', async () => {
  const { picked, input, user } = await picker()
  await user.keyboard('pin')
  await eventually(() => expect(document.querySelector('[role="option"]')).not.toBeNull())
  await user.keyboard('ned{Enter}')
  expect(picked).toEqual(['pinned'])
  // The list goes, and so does what was typed: another Enter takes nothing.
  await eventually(() => expect(document.querySelector('[role="option"]')).toBeNull())
  await user.keyboard('{Enter}')
  expect(picked).toEqual(['pinned'])
  expect(input.value).toBe('')
})

it('takes what was typed on Enter before the list is there', async () => {
  const { picked, user } = await picker()
  await user.keyboard('pinned{Enter}')
  expect(picked).toEqual(['pinned'])
})

it('keeps the focus while the button is down on what it offers', async () => {
  const { picked, input, user } = await picker()
  await user.keyboard('pinned')
  const option = await eventually(() => {
    const found = document.querySelector<HTMLElement>('[role="option"]')
    expect(found).not.toBeNull()
    return found!
  })
  await user.pointer({ target: option, keys: '[MouseLeft>]' })
  expect(document.activeElement).toBe(input)
  await user.pointer({ target: option, keys: '[/MouseLeft]' })
  expect(picked).toEqual(['pinned'])
})
