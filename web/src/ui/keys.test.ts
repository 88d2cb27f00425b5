import { describe, expect, it } from 'vitest'
import { freeKey, teamKey } from './keys'

describe('keys', () => {
  it('are made from names, and differ', () => {
    expect(freeKey('First Light', [])).toBe('first-light')
    expect(freeKey('Ärger & Co.', ['arger-co'])).toBe('arger-co-2')
    expect(freeKey('???', [])).toBe('new')
  })

  it('of teams are their first letters', () => {
    expect(teamKey('Lamp Control', [])).toBe('LC')
    expect(teamKey('Tide & Weather', ['TW'])).toBe('TW2')
    expect(teamKey('Riggers', [])).toBe('RIG')
    expect(teamKey('  ', [])).toBe('')
  })
})
