import { computed } from 'vue'
import { asDate } from '@/ui/dates'
import { count, percent, sized } from '@/ui/format'
import { useProgram } from '@/line/program'
import { titleOf } from '@/line/course'
import { useTrack, type Row } from './track'
import { hinderedText, illTests } from '@/line/signals'
import { daysSince, whenText } from './words'

const weekday = new Intl.DateTimeFormat('en-GB', { weekday: 'short', timeZone: 'UTC' })

/** What is said of an item on its course, as a row or as a card. */
export function useCourse(row: () => Row) {
  const store = useProgram()
  const track = useTrack()

  const item = computed(() => row().item)
  const team = computed(() => store.teams.get(item.value.team ?? ''))
  const size = computed(() => sized(item.value.size, team.value))
  const may = computed(() => track.mayMove(item.value))
  const who = computed(() => track.names.get(item.value.assignee ?? '') ?? 'nobody yet')
  /** What blocks it; empty: nothing does. */
  const blocked = computed(() => (item.value.state === 'done' ? '' : (item.value.blocked ?? '')))
  const notes = computed(() => {
    const { course, chance } = row()
    const waits = item.value.state === 'done' ? undefined : track.waits.get(item.value.key)
    const blockedDays = course.blocked ? daysSince(course.blocked, store.todayDay) : 0
    const facts = store.itemFacts.get(item.value.key)
    return [
      facts?.tasks ? `${facts.tasksDone ?? 0} of ${count(facts.tasks, 'task')} done` : '',
      blocked.value ? (blockedDays ? `blocked for ${count(blockedDays, 'day')}` : 'blocked') : '',
      hinderedText(facts),
      illTests(item.value.tests),
      waits ? `waits for ${waits.join(', ')}` : '',
      chance === undefined ? '' : `${percent(chance)} by the end`,
      course.back ? `sent back ${course.back === 1 ? 'once' : count(course.back, 'time')}` : '',
      course.added ? 'added since the start' : '',
    ].filter(Boolean)
  })
  /** How long it has been at its step, or what blocks it there. */
  const says = computed(() => {
    if (blocked.value) return `blocked: ${blocked.value}`
    const { at, course } = row()
    if (!course.since) return titleOf(track.course[at])
    const days = daysSince(course.since, store.todayDay)
    if (item.value.state === 'done')
      return days < 7 ? `done ${weekday.format(asDate(store.todayDay - days))}` : 'done'
    return days ? `${count(days, 'day')} here` : `since ${whenText(course.since).split(' ')[1]}`
  })
  const label = computed(() =>
    [
      `${item.value.key} ${item.value.title}`,
      size.value,
      titleOf(track.course[row().at]),
      who.value,
      ...notes.value,
    ].join(', '),
  )
  const asked = computed(() => (track.asked?.item === item.value.key ? track.asked : undefined))
  return { item, team, size, may, who, blocked, notes, says, label, asked }
}
