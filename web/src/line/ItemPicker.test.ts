// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { expect, it } from 'vitest'
import { drawn, eventually, typist } from '@/ui/testing'
import ItemPicker from './ItemPicker.vue'
import { useProgram } from './program'
import { smallProgram } from './testing'

it('keeps the focus while the button is down on what it offers', async () => {
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
