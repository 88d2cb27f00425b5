import { expect, it } from 'vitest'
import { linkText } from './linkText'

it('names what a link leads to', () => {
  expect(linkText({ kind: 'brief', to: 'Plan of May' })).toBe('Brief “Plan of May”')
  expect(linkText({ kind: 'screen', to: 'Harbour' })).toBe('Wall screen of “Harbour”')
  expect(linkText({ kind: 'dates' })).toBe('Calendar address')
})
