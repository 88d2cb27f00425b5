<script setup lang="ts">
import { computed } from 'vue'
import type { When } from '@/api/types'
import { shortDate, toDay } from '@/ui/dates'
import { amount, count, sized } from '@/ui/format'
import { dateAt } from '@/line/landingRange'
import { useProgram } from '@/line/program'
import { worded } from '@/pictures/fan'

/** Two answers to check the plays with, step by step, and why the three differ. */
const props = defineProps<{ found: When }>()
const share = defineModel<number>('share', { required: true })
const days = defineModel<number>('days', { required: true })
/** Through how many ends of iterations the trend goes. */
const ends = defineModel<number>('ends', { required: true })
const store = useProgram()
const day = (date?: string) => (date ? shortDate(date, store.todayDay) : 'no date')
const without = computed(() => props.found.plain[0])
const buffered = computed(() => props.found.plain[1])
const range = computed(() => {
  const [from, to] = [without.value.done, buffered.value.done]
  if (!from) return 'at no date: a team has no velocity'
  return to && to !== from ? `between ${day(from)} and ${day(to)}` : `by ${day(from)}`
})
const trend = computed(() => props.found.trend)
const team = computed(() => store.teams.get(props.found.measure.team ?? ''))
const words = (n: number) => worded(n, props.found.measure, team.value)
const perWeek = computed(() => words(Math.abs(trend.value.slope) * 7))

/** Why the three answers differ, in a sentence each. */
const why = computed(() => {
  const even = dateAt(props.found.landing, 50)
  if (!even) return []
  const apart = (date: string) => {
    const off = toDay(date) - toDay(even)
    return off === 0
      ? 'the day of even odds'
      : `${count(Math.abs(off), 'day')} ${off < 0 ? 'before' : 'after'} even odds`
  }
  const all = []
  if (without.value.done)
    all.push(
      `Plain arithmetic comes to ${apart(without.value.done)}: it takes each team to do nothing but this at its velocity, and knows no needs, days off, order of work${props.found.landing.growth ? ', growth' : ''} or luck.`,
    )
  if (trend.value.meets)
    all.push(
      `The trend comes to ${apart(trend.value.meets)}: it goes on as it went over ${count(trend.value.points.length, 'end')} of iterations, whatever is planned, and takes scope to change as it did.`,
    )
  return all
})
</script>

<template>
  <section class="card" aria-label="To check it with">
    <h3>To check it with</h3>
    <p>
      <b>Plain arithmetic</b>, sizes ÷ velocity × length: done {{ range }}, with
      <input
        v-model.lazy.number="share"
        class="in number"
        type="number"
        min="0"
        max="500"
        step="5"
        aria-label="Buffer in percent"
      />
      % and
      <input
        v-model.lazy.number="days"
        class="in number"
        type="number"
        min="0"
        max="365"
        aria-label="Buffer in days"
      />
      days on top.
    </p>
    <details>
      <summary>Its steps</summary>
      <ul>
        <li v-for="t in buffered.teams" :key="t.team">
          <b>{{ store.teams.get(t.team)?.name }}</b>
          {{ sized(t.units, store.teams.get(t.team)) }} in {{ count(t.items, 'item')
          }}<template v-if="t.unsized"
            >, {{ t.unsized }} of them without a size, at the mean of {{ amount(t.mean ?? 0) }}</template
          >;
          <template v-if="t.velocity"
            >÷ {{ amount(t.velocity) }} an iteration ({{ t.basis }}) = {{ amount(t.iterations) }} iterations;
            × {{ t.days }} days<template v-if="buffered.buffer.share">
              × {{ amount(1 + buffered.buffer.share) }}</template
            ><template v-if="buffered.buffer.days"> + {{ count(buffered.buffer.days, 'day') }}</template> =
            {{ count(t.totalDays, 'day') }}, to {{ day(t.done) }}</template
          ><template v-else>no velocity to go by</template>
        </li>
      </ul>
    </details>
    <p v-if="trend.meets">
      <b>The trend</b> of what was left at the last {{ count(trend.points.length, 'end') }} of iterations:
      {{ perWeek }} less a week, which comes to nothing on <b>{{ day(trend.meets) }}</b><template
        v-for="w in trend.within"
        :key="w.odds"
        >; {{ w.odds }} %: {{ day(w.from) }} to {{ w.to ? day(w.to) : 'never' }}</template
      >.<template v-if="trend.still && trend.still !== trend.meets">
        Were scope to stay as it is: {{ day(trend.still) }}.</template
      >
    </p>
    <p v-else class="quiet">
      <b>The trend</b>
      {{
        trend.points.length < 2
          ? 'of the burndown needs the ends of two iterations, under the journal.'
          : 'of what was left at the ends of iterations does not go down: it meets no date.'
      }}
    </p>
    <details v-if="trend.points.length">
      <summary>Its points</summary>
      <label class="check"
        >The last
        <input
          v-model.lazy.number="ends"
          class="in number"
          type="number"
          min="2"
          max="40"
          aria-label="Ends of iterations"
        />
        ends of iterations</label
      >
      <ul>
        <li v-for="p in trend.points" :key="p.day">
          {{ day(p.day) }}: {{ words(p.total - p.done) }} left ({{ words(p.done) }} of
          {{ words(p.total) }} done)
        </li>
      </ul>
    </details>
    <p v-for="w in why" :key="w" class="quiet small">{{ w }}</p>
  </section>
</template>

<style scoped>
.card {
  display: grid;
  gap: 8px;
}

.in.number {
  width: 62px;
  height: 26px;
}
</style>
