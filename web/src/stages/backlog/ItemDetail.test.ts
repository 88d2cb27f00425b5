// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { nextTick } from 'vue'
import { beforeEach, expect, it, vi } from 'vitest'
import { useBacklog } from './backlog'
import ItemDetail from './ItemDetail.vue'
import { useProgram } from '@/line/program'
import { factsOf, smallProgram } from '@/line/testing'
import { drawn } from '@/ui/testing'

/** The panel of an item, and the store that it shows. */
function panel() {
  const pinia = createPinia()
  setActivePinia(pinia)
  const store = useProgram()
  store.id = 1
  store.program = smallProgram()
  store.facts = factsOf(store.program)
  store.mine = { role: 'program manager', author: '1', teams: [], rights: [] }
  useBacklog().cursor.key = 'x'
  const host = drawn(ItemDetail, {}, pinia)
  /** Somebody else changes a field of x. */
  const change = async (field: string, value: string) => {
    store.program = {
      ...store.program,
      items: store.program.items?.map((i) => (i.key === 'x' ? { ...i, [field]: value } : i)),
    }
    await nextTick()
  }
  return { title: host.querySelector<HTMLInputElement>('[aria-label="Title"]')!, change }
}

beforeEach(() => vi.stubGlobal('fetch', () => new Promise(() => undefined)))

it('keeps a title that is typed while others change the item, and shows theirs where nobody types', async () => {
  const { title, change } = panel()
  expect(title.value).toBe('x')
  await change('title', 'Theirs')
  expect(title.value).toBe('Theirs')
  title.value = 'Ours, half'
  title.dispatchEvent(new Event('input'))
  await change('description', 'What others say of it')
  expect(title.value).toBe('Ours, half')
  await change('title', 'Theirs, too')
  expect(title.value).toBe('Ours, half')
})
