import { describe, expect, it } from 'vitest'
import { matching, unsettled } from './matching'

const of = (...labels: string[]) => labels.map((label) => ({ value: label, label }))
const labels = (found: { label: string }[]) => found.map((c) => c.label)

describe('what a typed text may mean', () => {
  const kinds = of('story', 'spike', 'defect', 'enabler')

  it('takes all that was typed, not the first letter', () => {
    expect(labels(matching(kinds, 'spike'))).toEqual(['spike'])
    expect(labels(matching(kinds, 'sp'))).toEqual(['spike'])
    expect(labels(matching(kinds, 's'))).toEqual(['story', 'spike'])
    expect(unsettled(kinds, 's')).toBe('“s” may be story, spike. Write more, or choose one.')
    expect(unsettled(kinds, 'spikes')).toBe('Nothing here is “spikes”.')
  })

  it('prefers what reads just so', () => {
    const iterations = of('TW·1', 'TW·12', 'TW·11')
    expect(labels(matching(iterations, 'tw·1'))).toEqual(['TW·1'])
    expect(labels(matching(iterations, 'TW·12'))).toEqual(['TW·12'])
    expect(labels(matching(iterations, '12'))).toEqual(['TW·12'])
  })

  it('begins a word before it looks anywhere', () => {
    const releases = of('First Light', 'Full Chain', 'Delight')
    expect(labels(matching(releases, 'light'))).toEqual(['First Light'])
    expect(labels(matching(releases, 'ligh'))).toEqual(['First Light'])
    expect(labels(matching(releases, 'elig'))).toEqual(['Delight'])
    expect(labels(matching(releases, 'Full'))).toEqual(['Full Chain'])
  })

  it('minds neither case nor accents', () => {
    expect(labels(matching(of('Søren Å', 'Émile'), 'emile'))).toEqual(['Émile'])
  })

  it('offers all before anything is typed', () => {
    expect(matching(kinds, '  ')).toHaveLength(4)
  })
})
