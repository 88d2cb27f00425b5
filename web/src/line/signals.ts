import type { Build, Deployed, ItemFacts, Tests } from '@/api/types'
import { timeText } from '@/ui/dates'
import { count } from '@/ui/format'

const listed = (...texts: (string | false)[]): string => texts.filter(Boolean).join(', ')

/** How tests stand, in words: "41 passed, 2 failed, 5 not run". */
export const testsText = (t: Tests | undefined): string =>
  t
    ? listed(
        `${t.passed} passed`,
        t.failed > 0 && `${t.failed} failed`,
        t.notRun > 0 && `${t.notRun} not run`,
      )
    : ''

/** What is ill about tests, in words: "2 tests fail, 5 tests not run"; empty for nothing. */
export const illTests = (t: Tests | undefined): string =>
  listed(
    !!t?.failed && count(t.failed, 'test fails', 'tests fail'),
    !!t?.notRun && count(t.notRun, 'test not run', 'tests not run'),
  )

/** What keeps an item from being tested: "tests wait for LC-28". */
export const hinderedText = (facts: ItemFacts | undefined): string =>
  facts?.hindered ? `tests wait for ${facts.hindered.join(', ')}` : ''

/** "nightly has been red since 2 Mar, 02:15". */
export const buildText = (b: Build, now: Date): string =>
  `${b.name} has been ${b.state} since ${timeText(b.since, now)}`

/** "1.4.2 in harbour test bed since 1 Mar, 16:00". */
export const deployedText = (d: Deployed, now: Date): string =>
  `${d.version} in ${d.place} since ${timeText(d.since, now)}`
