import type { Program } from '@/api/types'

/** What setting a program up would go on with: one line, and where that is done. */
export interface Step {
  text: string
  /** The name of the route. */
  to: string
  label: string
}

/** The first thing that is still missing before a draft can be made; nothing where none is. */
export function nextStep(program: Program): Step | undefined {
  const teams = program.teams ?? []
  const still = teams.find(
    (t) =>
      t.unit === 'points' &&
      t.velocity === undefined &&
      !t.iterations?.some((it) => it.completed !== undefined),
  )
  if (!program.cadences?.length && !teams.length)
    return {
      text: 'First the rhythm: how long iterations are, and when the first one starts.',
      to: 'set-up-calendar',
      label: 'New cadence',
    }
  if (!teams.length)
    return {
      text: 'Next the teams: each with the unit that it sizes in, its velocity and its cadence.',
      to: 'set-up-teams',
      label: 'To the teams',
    }
  if (still)
    return {
      text: `${still.name} has no velocity yet, so nothing fits into its iterations: agree on one.`,
      to: 'set-up-teams',
      label: 'To the teams',
    }
  if (!program.releases?.length)
    return {
      text: 'Next a release with its due date, so that what is planned can be late or in time.',
      to: 'set-up-releases',
      label: 'To the releases',
    }
  if (!program.people?.length)
    return {
      text: 'Next the people in the teams: days off and holidays then lower what a team can carry.',
      to: 'set-up-people',
      label: 'To the people',
    }
  if (!program.items?.length)
    return {
      text: 'Next the work: write it line by line, paste an outline, or import a spreadsheet.',
      to: 'backlog',
      label: 'To the backlog',
    }
  if (!program.items.some((x) => x.iteration))
    return { text: 'Next a first plan: let Jantrel draft a schedule.', to: 'plan', label: 'To the plan' }
  return undefined
}
