<script setup lang="ts">
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import type { When, WhenAsked } from '@/api/types'
import { landingRange } from '@/line/landingRange'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'
import { fanChart, oddsChart, worded, type Mark } from '@/pictures/fan'
import TimePicture from '@/ui/TimePicture.vue'
import { useChartLook } from '@/ui/chartLook'
import { shortDate, toDay } from '@/ui/dates'
import { percent } from '@/ui/format'
import type { Body } from './body'

/** What becomes of some work, from the same plays as the forecast's: its odds day by day, what is done, or what is left. */
const props = defineProps<Body>()
const store = useProgram()
const look = useChartLook()
const due = computed(() => {
  const { release, item } = props.card.about ?? {}
  return store.releases.get(release ?? '')?.due ?? store.items.get(item ?? '')?.due
})
const found = useAnswer<When | undefined>(
  (signal) =>
    props.told
      ? Promise.resolve(props.told.when)
      : store.id
        ? answer(
            client.POST('/api/v1/programs/{id}/forecast/when', {
              params: { path: { id: store.id } },
              body: { ...props.card.about, by: due.value } as WhenAsked,
              signal,
            }),
          )
        : undefined,
  [
    () => store.id,
    () => JSON.stringify(props.card.about),
    due,
    () => props.told,
    () => store.revision,
    () => store.today,
  ],
  { wait: 40, forget: ([id, about], [before, was]) => id !== before || about !== was },
)
const marks = computed<Mark[]>(() => [
  { day: store.todayDay, name: 'today', kind: 'today' },
  ...(due.value
    ? [{ day: toDay(due.value), name: `due ${shortDate(due.value, store.todayDay)}`, kind: 'due' as const }]
    : []),
])
const chart = computed(() => {
  const told = found.answer.value
  if (!told) return undefined
  if (props.card.kind === 'odds')
    return told.chances.length ? oddsChart(told, undefined, marks.value, store.todayDay, look()) : undefined
  return fanChart(
    told,
    props.card.kind === 'burn-down',
    marks.value,
    store.teams.get(told.measure.team ?? ''),
    store.todayDay,
    look(),
  )
})
const sentence = computed(() => {
  const told = found.answer.value
  if (!told) return found.asking.value ? 'Playing the plan…' : ''
  const { landing } = told
  if (!landing.left && !landing.rough) return 'Nothing is left to do.'
  const odds =
    landing.chance === undefined || !told.by
      ? ''
      : `, by ${shortDate(told.by, store.todayDay)}: ${percent(landing.chance)}`
  const words = (n: number) => worded(n, told.measure, store.teams.get(told.measure.team ?? ''))
  const whole = told.measure.in === 'share' ? '' : ` of ${words(told.fan.total)}`
  const done = props.card.kind === 'odds' ? '' : ` ${words(told.fan.done)}${whole} done.`
  return `Done ${landingRange(landing, store.todayDay)} (50 to 85 %)${odds}.${done}`
})
defineExpose({
  sentence,
  table: computed(
    () => chart.value && { columns: chart.value.columns, rows: chart.value.rows.map((r) => r.cells) },
  ),
})
</script>

<template>
  <p v-if="found.failure.value" role="alert" class="failure">{{ found.failure.value }}</p>
  <TimePicture
    v-else-if="chart"
    :says="`${title}. ${sentence}`"
    :chart="chart"
    :height="height - 22"
    :class="{ waiting: found.asking.value }"
  />
  <p v-else-if="found.answer.value" class="quiet">There is nothing to draw: no work of it can be played.</p>
</template>

<style scoped>
.waiting {
  opacity: 0.5;
}
</style>
