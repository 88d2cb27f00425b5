import { expect, test } from 'vitest'
import { csvOf } from './saveFile'

test('a table as CSV: commas and quotes are kept, and nothing becomes a formula', () => {
  expect(
    csvOf([
      ['Day', 'Say "so"', 'a,b'],
      ['=1+1', -3, '2027-03-01'],
    ]),
  ).toBe('Day,"Say ""so""","a,b"\r\n\'=1+1,-3,2027-03-01\r\n')
})
