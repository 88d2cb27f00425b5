import { afterEach, describe, expect, it } from 'vitest'
import { addressOf, lineOfAddress, ofLine, showLine, withLine } from './inView'

afterEach(() => showLine({ scenario: 0, at: '' }))

describe('the line in view', () => {
  it('is the live plan at first, and named by no request', () => {
    expect(ofLine('/api/v1/programs/1/outline')).toBe('/api/v1/programs/1/outline')
  })

  it('is named by every request about the program, and by no other', () => {
    showLine({ scenario: 7, at: '' })
    expect(ofLine('/api/v1/programs/1/outline')).toBe('/api/v1/programs/1/outline?scenario=7')
    expect(ofLine('/api/v1/programs/1/fits?team=LC')).toBe('/api/v1/programs/1/fits?team=LC&scenario=7')
    expect(ofLine('/api/v1/news')).toBe('/api/v1/news')
    expect(withLine({ team: 'LC' })).toEqual({ scenario: 7, team: 'LC' })
  })

  it('leaves a moment that is asked about by itself', () => {
    showLine({ scenario: 0, at: '12' })
    expect(ofLine('/api/v1/programs/1/outline?at=3')).toBe('/api/v1/programs/1/outline?at=3')
    expect(ofLine('/api/v1/programs/1/outline')).toBe('/api/v1/programs/1/outline?at=12')
  })

  it('stands in the address', () => {
    for (const line of [
      { scenario: 7, at: '' },
      { scenario: 0, at: '123' },
      { scenario: 0, at: '2027-02-01' },
      { scenario: 0, at: '' },
    ])
      expect(lineOfAddress(addressOf(line))).toEqual(line)
    expect(lineOfAddress(undefined)).toEqual({ scenario: 0, at: '' })
  })
})
