import type { Build, Deployed, ItemFacts, Tests } from '@/api/types'
import { timeText } from '@/ui/dates'
import { count } from '@/ui/format'

/** How tests stand, in words: "41 passed, 2 fail, 5 not run"; of what is ill only that. */
export function testsText(tests: Tests | undefined, which: 'all' | 'ill' = 'all'): string {
  if (!tests) return ''
  const ill = which === 'ill'
  return [
    ill ? '' : `${tests.passed} passed`,
    tests.failed ? (ill ? count(tests.failed, 'test fails', 'tests fail') : `${tests.failed} failed`) : '',
    tests.notRun
      ? ill
        ? count(tests.notRun, 'test not run', 'tests not run')
        : `${tests.notRun} not run`
      : '',
  ]
    .filter(Boolean)
    .join(', ')
}

/** What keeps an item from being tested: "tests wait for LC-28". */
export const hinderedText = (facts: ItemFacts | undefined): string =>
  facts?.hindered ? `tests wait for ${facts.hindered.join(', ')}` : ''

/** "nightly has been red since 2 Mar, 02:15". */
export const buildText = (b: Build, now: Date): string =>
  `${b.name} has been ${b.state} since ${timeText(b.since, now)}`

/** "1.4.2 in harbour test bed since 1 Mar, 16:00". */
export const deployedText = (d: Deployed, now: Date): string =>
  `${d.version} in ${d.place} since ${timeText(d.since, now)}`
