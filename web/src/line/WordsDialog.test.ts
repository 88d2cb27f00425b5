// @vitest-environment jsdom
import { expect, it } from 'vitest'
import WordsDialog from './WordsDialog.vue'
import { useProgram } from './program'
import { withProgram } from './withProgram'
import { drawn, eventually, typist } from '@/ui/testing'

it('keeps a word for each line, and none twice', async () => {
  const { pinia, asked } = withProgram()
  const props = { field: 'priorities', title: 'Priorities', asks: 'The first first', example: '', kept: '' }
  drawn(WordsDialog, props, pinia)
  const hand = typist()
  await eventually(() => expect(document.querySelector('textarea')).toBeTruthy())
  await hand.type(document.querySelector('textarea')!, 'Now{Enter}Later{Enter}now')
  const alert = () => document.querySelector('[role=dialog] [role=alert]')?.textContent
  const keep = [...document.querySelectorAll<HTMLButtonElement>('[role=dialog] button')].find(
    (b) => b.textContent === 'Keep',
  )!
  expect(alert()).toBe('now is there twice.')
  expect(keep.disabled).toBe(true)
  await hand.keyboard('{Backspace>4/}')
  expect(alert()).toBeUndefined()
  await hand.click(keep)
  await eventually(() =>
    expect(asked.find((a) => a.path.endsWith('/changes'))?.body).toMatchObject({
      label: 'Priorities',
      changes: [{ op: 'set', kind: 'program', field: 'priorities', value: ['Now', 'Later'] }],
    }),
  )
  expect(useProgram().notice).toBeUndefined()
})
