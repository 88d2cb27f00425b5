import type { Item, ItemState, Step } from '@/api/types'

const states: [ItemState, string][] = [
  ['todo', 'to do'],
  ['doing', 'doing'],
  ['review', 'in review'],
  ['done', 'done'],
]

/** What the states are called. */
export const stateTitles = new Map<string, string>(states)

/**
 * What items run through, in order: a program's steps, and each state that is not divided into
 * such as one step. As the server has it (core/program, Settings.Course), so that a move is seen
 * at once.
 */
export const courseOf = (steps: readonly Step[] | undefined): Step[] =>
  states.flatMap(([state]) => {
    const of = (steps ?? []).filter((s) => s.state === state)
    return of.length ? of : [{ name: '', state }]
  })

/** Where on a course an item is: at the step that it names, else at the first of its state. */
export function stepOf(course: readonly Step[], item: Pick<Item, 'state' | 'step'>): number {
  const state = item.state || 'todo'
  const named = course.findIndex((s) => s.state === state && s.name === (item.step ?? ''))
  return named >= 0 ? named : course.findIndex((s) => s.state === state)
}

/** What a step is called. */
export const titleOf = (step: Step): string => step.name || (stateTitles.get(step.state) ?? '')
