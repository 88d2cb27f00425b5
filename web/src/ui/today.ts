import { inject, provide, type Ref } from 'vue'
import { toDay, type Day } from './dates'

const key = Symbol('today')

/** Says which day it is to all that is drawn below; 0: not known yet. */
export const provideToday = (today: Readonly<Ref<Day>>): void => provide(key, today)

/** The day that it is: as the program in view is seen, or else as this machine has it. */
export function useToday(): () => Day {
  const given = inject<Readonly<Ref<Day>> | undefined>(key, undefined)
  return () => given?.value || toDay(new Date().toISOString().slice(0, 10))
}
