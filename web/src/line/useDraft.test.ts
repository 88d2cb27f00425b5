// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { draftOf, keepDraft } from './drafts'
import { stillTyped, useDraft } from './useDraft'

beforeEach(() => {
  localStorage.clear()
  setActivePinia(createPinia())
})

/** A form of a name, as it is filled when it is opened. */
function form(fresh = false) {
  const open = ref(false)
  const text = ref('')
  const scope = effectScope()
  const draft = scope.run(() =>
    useDraft({
      name: () => (open.value ? 'team' : undefined),
      read: () => ({ text: text.value }),
      start: () => ({ text: '' }),
      write: (typed) => (text.value = typed.text),
      fresh: () => fresh,
    }),
  )!
  const show = async (now: boolean, with_ = '') => {
    open.value = now
    if (now) text.value = with_ // as it is filled, once it is open
    await nextTick()
  }
  return { open, text, draft, show, end: () => scope.stop() }
}

it('keeps what was typed when the form is closed, or the page left, and offers it again', async () => {
  const first = form()
  await first.show(true)
  first.text.value = 'Harbour crew'
  await first.show(false)
  await first.show(true)
  expect([first.text.value, first.draft.offered.value]).toEqual(['Harbour crew', true])
  first.end() // another page
  const second = form()
  await second.show(true)
  expect([second.text.value, second.draft.offered.value]).toEqual(['Harbour crew', true])
  second.draft.discard()
  expect([second.text.value, second.draft.offered.value]).toEqual(['', false])
  await second.show(false)
  await second.show(true)
  expect([second.text.value, second.draft.offered.value]).toEqual(['', false])
})

it('forgets what was saved, and what was emptied by hand', async () => {
  const team = form()
  await team.show(true)
  team.text.value = 'Harbour crew'
  team.draft.saved()
  await team.show(false)
  await team.show(true)
  expect(team.text.value).toBe('')
  team.text.value = 'Harbour'
  team.text.value = ''
  await team.show(false)
  await team.show(true)
  expect(team.draft.offered.value).toBe(false)
})

it('keeps what was pasted in place of what was typed before', async () => {
  const typed = form()
  await typed.show(true)
  typed.text.value = 'Typed'
  typed.end()
  const pasted = form(true)
  await pasted.show(true, 'Pasted')
  expect(pasted.text.value).toBe('Pasted')
  pasted.end()
  const again = form()
  await again.show(true)
  expect(again.text.value).toBe('Pasted')
})

it('leaves what was typed where the rest has changed', () => {
  const was = { name: 'A', due: '', phases: ['x'] }
  const typed = { ...was, name: 'Typed', phases: ['x', 'y'] }
  const is = { name: 'Theirs', due: '2027-05-01', phases: ['z'] }
  expect(stillTyped(was, is, typed)).toEqual({ name: 'Typed', due: '2027-05-01', phases: ['x', 'y'] })
})

it('keeps so many, the latest ones, and nothing endless', () => {
  for (let i = 0; i < 70; i++) keepDraft(`form ${i}`, { i }, i)
  expect(draftOf('form 9')).toBeUndefined()
  expect(draftOf('form 10')).toEqual({ i: 10 })
  keepDraft('form 69', 'x'.repeat(300_000))
  expect(draftOf('form 69')).toEqual({ i: 69 })
  localStorage.setItem('jantrel-draft/odd', 'not JSON')
  expect(draftOf('odd')).toBeUndefined()
})
