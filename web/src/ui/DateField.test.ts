// @vitest-environment jsdom
import { h, nextTick, ref } from 'vue'
import { expect, it } from 'vitest'
import DateField from './DateField.vue'
import { drawn, eventually, typist } from './testing'

/** A field of a date that is taken, and answered when the test says so. */
function field(at: string) {
  const date = ref(at)
  const taken: string[] = []
  const host = drawn({
    render: () =>
      h(DateField, { modelValue: date.value, 'onUpdate:modelValue': (to: string) => void taken.push(to) }),
  })
  const input = host.querySelector('input')!
  const type = async (text: string) => {
    input.focus()
    input.value = text
    input.dispatchEvent(new Event('input'))
    await nextTick()
  }
  const enter = async () => {
    input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }))
    await nextTick()
  }
  return { date, taken, input, type, enter }
}

it('keeps what is typed while the answer to what was taken before is on its way', async () => {
  const { date, taken, input, type, enter } = field('2027-02-12')
  expect(input.value).toBe('12 Feb 2027')
  await type('12 May 2027')
  await enter()
  expect(taken).toEqual(['2027-05-12'])
  await type('soon')
  date.value = '2027-05-12'
  await nextTick()
  expect(input.value).toBe('soon')
  await enter()
  expect(input.title).toContain('“soon” is no date.')
  expect(taken).toHaveLength(1)
})

it('shows what others make of the date where nobody types', async () => {
  const { date, input } = field('2027-02-12')
  date.value = '2027-03-01'
  await nextTick()
  expect(input.value).toBe('1 Mar 2027')
  input.focus()
  date.value = ''
  await nextTick()
  expect(input.value).toBe('')
})

it('takes a day from the calendar by keys, and goes on where one was', async () => {
  const { taken, input, type } = field('2027-02-01')
  const press = (key: string) =>
    document.activeElement!.dispatchEvent(
      new KeyboardEvent('keydown', { key, code: key, bubbles: true, cancelable: true }),
    )
  /** The day that the keyboard is on; undefined where there is no calendar. */
  const day = () => {
    const at = document.activeElement as HTMLElement
    return at.closest('.p-datepicker') ? at.textContent?.trim() : undefined
  }
  await type('12 Feb 2027')
  press('ArrowDown')
  await eventually(() => expect(day()).toBe('12'))
  press('ArrowRight')
  press('ArrowDown')
  expect(day()).toBe('20')
  press('Enter')
  await eventually(() => expect(document.activeElement).toBe(input))
  expect(input.value).toBe('20 Feb 2027')
  expect(taken).toEqual(['2027-02-20'])
  // Opened again it begins where it is; a month on and back with Escape, nothing is chosen.
  press('ArrowDown')
  await eventually(() => expect(day()).toBe('20'))
  press('PageDown')
  press('Escape')
  await eventually(() => expect(document.activeElement).toBe(input))
  expect(input.value).toBe('20 Feb 2027')
  expect(taken).toHaveLength(1)
})

it('takes a day from the calendar by mouse', async () => {
  const { taken, input } = field('2027-04-06')
  const hand = typist()
  input.focus()
  await hand.keyboard('{ArrowDown}')
  const day = () => [...document.querySelectorAll('.p-datepicker td span')].find((s) => s.textContent === '8')
  await eventually(() => expect(day()).toBeTruthy())
  await hand.click(day()!)
  expect(taken).toEqual(['2027-04-08'])
})
