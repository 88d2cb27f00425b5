import type { Question, StepAnswers } from '@/api/types'

/** What the server asks before an item goes to a step, or whether it goes on: what is said again with the answer. */
export interface StepAsked {
  ask: Question
  /** The step that it would go to, from 0. */
  to: number
  /** What was answered before. */
  step: StepAnswers
}

/** What was answered before, and one answer more; undefined where that is a step to go to. */
export function withAnswer(step: StepAnswers, ask: Question, value: string): StepAnswers | undefined {
  switch (ask.field) {
    case 'why':
      return { ...step, why: value.trim() }
    case 'over':
      return { ...step, over: true }
    case 'tasks':
      return { ...step, tasks: value }
    default:
      return undefined
  }
}
