import { expect, it } from 'vitest'
import type { Program } from '@/api/types'
import { nextStep } from './nextStep'

const empty: Program = { name: 'P', settings: { sameIteration: 'same-team', fillTo: 1 } }
const team = { key: 'A', name: 'Alpha', unit: 'points' as const }

it('goes on with what is missing, one thing after another, until there is a plan', () => {
  const steps: [Partial<Program>, string | undefined][] = [
    [{}, 'set-up-calendar'],
    [{ cadences: [{ key: 'c', start: '2027-03-01', lengthDays: 14 }] }, 'set-up-teams'],
    [{ teams: [team] }, 'set-up-teams'],
    [{ teams: [{ ...team, velocity: 20 }] }, 'set-up-releases'],
    [{ releases: [{ key: 'R', name: 'First' }] }, 'set-up-people'],
    [{ people: [{ key: 'p', name: 'Ada' }] }, 'backlog'],
    [{ items: [{ key: 'A-1', title: 'Lamp', kind: 'story' }] }, 'plan'],
    [{ items: [{ key: 'A-1', title: 'Lamp', kind: 'story', iteration: '1' }] }, undefined],
  ]
  let program = empty
  for (const [more, to] of steps) {
    program = { ...program, ...more }
    expect(nextStep(program)?.to).toBe(to)
  }
  const measured = { ...team, iterations: [{ key: '1', start: '', end: '', completed: 12 }] }
  expect(nextStep({ ...empty, teams: [measured] })?.to).toBe('set-up-releases')
})
