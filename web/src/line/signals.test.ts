import { describe, expect, it } from 'vitest'
import { buildText, deployedText, hinderedText, illTests, testsText } from './signals'

const since = '2027-03-02T02:15:00Z'
const now = new Date('2027-03-04T00:00:00Z')

describe('what services outside say', () => {
  it('says how tests stand, or only what is ill', () => {
    const tests = { passed: 41, failed: 2, notRun: 1, since }
    expect(testsText(tests)).toBe('41 passed, 2 failed, 1 not run')
    expect(illTests(tests)).toBe('2 tests fail, 1 test not run')
    expect(illTests({ ...tests, failed: 0, notRun: 0 })).toBe('')
    expect(testsText(undefined)).toBe('')
    expect(testsText({ ...tests, failed: 0, notRun: 0 })).toBe('41 passed')
  })
  it('says what tests wait for', () => {
    expect(hinderedText({ key: 'A', leaf: true, hindered: ['B', 'C'] })).toBe('tests wait for B, C')
    expect(hinderedText(undefined)).toBe('')
  })
  it('says since when builds stand so, and what runs where', () => {
    expect(buildText({ name: 'nightly', state: 'red', since }, now)).toMatch(
      /^nightly has been red since 2 Mar, /,
    )
    expect(deployedText({ place: 'test bed', version: '1.4', since }, now)).toMatch(
      /^1.4 in test bed since 2 Mar, /,
    )
  })
})
