<script setup lang="ts">
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import type { Driver } from '@/api/types'
import { amount, count } from '@/ui/format'
import { useProgram } from '@/line/program'
import type { Asked } from './asked'
import { useHasty } from './useHasty'

/** What moves the date, each by what would be gained were it otherwise. */
const props = defineProps<{ asked: Asked }>()
const store = useProgram()
const { about, by, picked, work } = props.asked
const found = useHasty(
  (quick, signal) =>
    answer(
      client.POST('/api/v1/programs/{id}/forecast/drivers', {
        params: { path: { id: store.id } },
        body: { ...about.value, by: by.value || undefined, quick },
        signal,
      }),
    ),
  () => [about.value, by.value],
  { wait: 200 },
)
const points = (d: Driver) => Math.round((d.chance ?? 0) * 100)
const dated = computed(() => found.answer.value?.chance !== undefined)
const most = computed(() =>
  Math.max(
    ...(found.answer.value?.drivers ?? []).map((d) => (dated.value ? Math.abs(points(d)) : Math.abs(d.days))),
    1e-9,
  ),
)
const signed = (n: number, text: string) => `${n >= 0 ? '+' : '−'}${text}`
const rows = computed(() =>
  (found.answer.value?.drivers ?? []).map((d) => ({
    d,
    text: d.if[0].toUpperCase() + d.if.slice(1),
    worth: [
      ...(dated.value && points(d) ? [signed(points(d), count(Math.abs(points(d)), 'point'))] : []),
      Math.abs(d.days) < 0.05
        ? 'no day'
        : `${amount(Math.abs(d.days))} ${amount(Math.abs(d.days)) === '1' ? 'day' : 'days'} ${d.days > 0 ? 'earlier' : 'later'}`,
    ].join(', '),
    width: `${(100 * (dated.value ? Math.abs(points(d)) : Math.abs(d.days))) / most.value}%`,
    worse: dated.value ? points(d) < 0 : d.days < 0,
    to: toOf(d),
  })),
)
/** Where it can be looked into. */
function toOf(d: Driver) {
  const params = { id: store.id }
  if (d.risk) return { name: 'track', params, query: { as: 'risks' } }
  if (d.item) return { name: 'backlog', params, query: { item: d.item } }
  if (d.kind === 'daysOff') return { name: 'set-up-people', params }
  if (d.team) return { name: 'set-up-velocity', params, query: { team: d.team } }
  if (d.kind === 'growth') return { name: 'set-up-releases', params }
  return { name: 'set-up-teams', params }
}
/** The levers of the plan mend releases and milestones. */
const mend = computed(() =>
  !picked.value.length && (work.kind.value === 'release' || work.kind.value === 'milestone')
    ? work.of.value
    : '',
)
</script>

<template>
  <section class="card" aria-label="What moves it most">
    <h3>
      What moves it most
      <RouterLink v-if="mend" class="small" :to="{ name: 'plan', params: { id: store.id }, query: { mend } }"
        >Recovery options</RouterLink
      >
    </h3>
    <p v-if="found.failure.value" role="alert" class="failure">{{ found.failure.value }}</p>
    <p v-if="!found.answer.value && found.asking.value" role="status" class="quiet">
      Playing it with one thing otherwise…
    </p>
    <template v-if="found.answer.value">
      <p v-if="!rows.length" class="quiet">
        Nothing that was tried moves it by a tenth of a day, or half a point.
      </p>
      <ol v-else>
        <li v-for="r in rows" :key="r.text">
          <RouterLink :to="r.to">{{ r.text }}</RouterLink>
          <span class="worth">{{ r.worth }}</span>
          <span :class="['bar', { worse: r.worse }]" :style="{ width: r.width }" aria-hidden="true" />
        </li>
      </ol>
      <p class="quiet small">
        Each was played {{ found.answer.value.plays }} times with that alone otherwise<template
          v-if="found.answer.value.ended"
          >; time ran out before all were</template
        >.<template v-if="found.first.value"> It is played on…</template>
      </p>
    </template>
  </section>
</template>

<style scoped>
h3 {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}

h3 a {
  color: inherit;
  font-weight: 400;
}

ol {
  display: grid;
  gap: 6px;
  margin: 0 0 6px;
  padding: 0;
  list-style: none;
}

li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 1px 10px;
}

li a {
  color: inherit;
  text-decoration: none;
}

li a:hover {
  text-decoration: underline;
}

.worth {
  font-weight: 600;
  white-space: nowrap;
}

.bar {
  grid-column: 1 / -1;
  height: 5px;
  border-radius: 3px;
  background: var(--water);
}

.bar.worse {
  background: var(--over);
}
</style>
