<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { answer, client } from '@/api/client'
import type { Measure, WhenAsked } from '@/api/types'
import ChartCard from '@/ui/ChartCard.vue'
import { useChartLook } from '@/ui/chartLook'
import { shortDate, toDay } from '@/ui/dates'
import { count, percent } from '@/ui/format'
import { cannotLand, dateAt, landingBasis, paceText } from '@/line/landingRange'
import { useProgram } from '@/line/program'
import type { Asked } from './asked'
import { fanChart, oddsChart, worded, type Mark } from '@/pictures/fan'
import DriverList from './DriverList.vue'
import PlainAnswers from './PlainAnswers.vue'
import TeamFinishes from './TeamFinishes.vue'
import WhatIf from './WhatIf.vue'
import AnswerPage from './AnswerPage.vue'
import { useQuestion } from './useQuestion'

/** When some work is done: a sentence, how it comes to be so, and what people check that with. */
const props = defineProps<{ asked: Asked }>()
const store = useProgram()
const look = useChartLook()
const { about, by, name, release, text, say } = props.asked

const share = useLocalStorage('jantrel-buffer-share', 20)
const bufferDays = useLocalStorage('jantrel-buffer-days', 0)
const trendEnds = useLocalStorage('jantrel-trend-ends', 6)
const asIf = ref<NonNullable<WhenAsked['if']>>({})
watch(about, () => (asIf.value = {}))
const supposed = computed(() => Object.values(asIf.value).some((v) => v !== undefined))

/** In what it is drawn: "share", "items", "size:LC", "hours"; empty: as the server chooses. */
const measure = computed<Measure | undefined>(() => {
  const [kind, team] = text('in').split(':')
  if (!['share', 'items', 'size', 'hours'].includes(kind)) return undefined
  return { in: kind as Measure['in'], team: team || undefined }
})
const left = computed(() => text('draw') === 'left' || measure.value?.in === 'hours')

const put = (body: Partial<WhenAsked>, signal: AbortSignal) =>
  answer(
    client.POST('/api/v1/programs/{id}/forecast/when', {
      params: { path: { id: store.id } },
      body: {
        ...about.value,
        by: by.value || undefined,
        measure: measure.value,
        last: Math.min(40, Math.max(2, Math.round(trendEnds.value) || 6)),
        buffer: {
          share: Math.min(5, Math.max(0, share.value || 0) / 100),
          days: Math.max(0, bufferDays.value || 0),
        },
        ...body,
      } as WhenAsked,
      signal,
    }),
  )
const of = () => [about.value, by.value]
const drawn = () => [measure.value, share.value, bufferDays.value, trendEnds.value]
const now = useQuestion((signal) => put({}, signal), of, { also: drawn })
const then = useQuestion((signal) => (supposed.value ? put({ if: asIf.value }, signal) : undefined), of, {
  also: () => [drawn(), asIf.value],
  wait: 60,
})
/** What is shown: with what is supposed, as soon as that is there. */
const found = computed(() => (supposed.value ? (then.answer.value ?? now.answer.value) : now.answer.value))
const before = computed(() => (supposed.value && then.answer.value ? now.answer.value : undefined))

const near = computed(() => store.todayDay)
const day = (date?: string) => shortDate(date, near.value)
const landing = computed(() => found.value?.landing)
/** The sentence: between which days, or why not. */
const said = computed(() => {
  const l = landing.value
  if (!l) return ''
  if (!l.left && !l.rough) return 'Nothing is left to do'
  if (l.cannot?.length) return 'It lands at no date'
  const [even, safe] = [dateAt(l, 50), dateAt(l, 85)]
  if (!even) return 'Beyond what was played'
  if (!safe) return `${day(even)} or much later`
  return even === safe ? day(even) : `${day(even)} to ${day(safe)}`
})
const lead = computed(() => {
  const l = landing.value
  if (!l || (!l.left && !l.rough)) return name.value
  if (!dateAt(l, 85) || l.cannot?.length) return name.value
  const verb = props.asked.due.value || release.value ? ' lands' : ': done'
  return `${name.value}${verb}, from even odds to 85 %`
})
const chance = computed(() => landing.value?.chance)
const gain = computed(() => {
  const was = before.value?.landing
  if (!was || !landing.value) return ''
  const parts = []
  const [a, b] = [dateAt(was, 50), dateAt(landing.value, 50)]
  if (a && b) {
    const days = toDay(b) - toDay(a)
    parts.push(
      days
        ? `${count(Math.abs(days), 'day')} ${days < 0 ? 'earlier' : 'later'} at even odds`
        : 'the same day at even odds',
    )
  }
  if (was.chance !== undefined && chance.value !== undefined) parts.push(`${percent(was.chance)} before`)
  return `As you suppose: ${parts.join(', ')}.`
})
const basis = computed(() => (landing.value ? landingBasis(landing.value, near.value) : []))

const marks = computed<Mark[]>(() => {
  const all: Mark[] = [{ day: near.value, name: 'today', kind: 'today' }]
  if (by.value)
    all.push({
      day: toDay(by.value),
      name: `${props.asked.due.value === by.value ? 'due' : 'by'} ${day(by.value)}`,
      kind: 'due',
    })
  const key = release.value?.key
  for (const m of store.program.milestones ?? [])
    if (!key || !m.releases?.length || m.releases.includes(key))
      if (m.date !== by.value) all.push({ day: toDay(m.date), name: m.name, kind: 'milestone' })
  return all
})
const teamOf = computed(() => store.teams.get(found.value?.measure.team ?? ''))
/** The days on which iterations end: of the team that is drawn, or of half of the teams of the work or more. */
const ends = computed<Mark[]>(() => {
  const teams = teamOf.value
    ? [teamOf.value]
    : (found.value?.teams ?? []).flatMap((t) => store.teams.get(t.key) ?? [])
  const on = new Map<string, number>()
  for (const it of teams.flatMap((t) => t.iterations ?? [])) on.set(it.end, (on.get(it.end) ?? 0) + 1)
  return [...on]
    .filter(([, n]) => 2 * n >= teams.length)
    .map(([end]) => ({ day: toDay(end), name: '', kind: 'iteration' as const }))
})
const fan = computed(
  () =>
    found.value &&
    fanChart(found.value, left.value, [...ends.value, ...marks.value], teamOf.value, near.value, look()),
)
const odds = computed(() =>
  found.value?.chances.length
    ? oddsChart(found.value, before.value, marks.value, near.value, look())
    : undefined,
)
const measures = computed(() => [
  ['share', 'share of the whole'],
  ['items', 'items'],
  ['hours', 'hours left of tasks'],
  ...(found.value?.teams ?? []).map((t) => [
    `size:${t.key}`,
    `${store.teams.get(t.key)?.unit} of ${store.teams.get(t.key)?.name}`,
  ]),
])
const measured = computed(() => {
  const m = found.value?.measure
  return m ? (m.in === 'size' ? `size:${m.team}` : m.in) : ''
})
const soFar = computed(() => {
  const f = found.value
  if (!f) return ''
  const words = (n: number) => worded(n, f.measure, teamOf.value)
  return f.measure.in === 'hours'
    ? `${words(f.fan.total)} left today`
    : `${words(f.fan.done)} of ${words(f.fan.total)} done today`
})
const fileName = computed(() =>
  `${name.value} `
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, ''),
)
</script>

<template>
  <AnswerPage
    :failure="now.failure.value || then.failure.value"
    :waiting="now.asking.value ? 'Playing the plan…' : ''"
    :answer="found"
    :lead="lead"
    :said="said"
  >
    <template #more="{ answer: told }">
      <p v-if="told.landing.cannot?.length">
        It {{ cannotLand(told.landing, 8) }}: no team, or no size to go by.
      </p>
      <p v-else-if="told.landing.left || told.landing.rough">
        <template v-if="told.by && chance !== undefined">
          {{ props.asked.due.value === told.by ? 'Due' : 'By' }} {{ day(told.by) }}:
          <b>{{ percent(chance) }}</b> likely.
        </template>
        <template v-else>It has no due date: choose one beside, and its chance shows.</template>
        {{ count(told.landing.left, 'item') }} left.
        <b v-if="gain">{{ gain }}</b>
      </p>
    </template>
    <template #default="{ answer: told }">
      <div class="pair">
        <div class="stack">
          <ChartCard
            v-if="fan"
            title="Work done and to come"
            :note="soFar"
            :says="`Work done and to come: ${soFar}.`"
            :chart="fan"
            :file="`${fileName}-burn-up`"
            :height="240"
          >
            <template #tools>
              <select
                class="chip"
                aria-label="Drawn in"
                :value="measured"
                @change="say({ in: ($event.target as HTMLSelectElement).value })"
              >
                <option v-for="[value, title] in measures" :key="value" :value="value">{{ title }}</option>
              </select>
              <button
                class="chip"
                :aria-pressed="left"
                :disabled="measure?.in === 'hours'"
                @click="say({ draw: left ? undefined : 'left' })"
              >
                What is left
              </button>
            </template>
          </ChartCard>
          <ChartCard
            v-if="odds"
            title="Odds over dates"
            :note="`${told.plays} plays of the plan, capacity and needs kept`"
            :says="`How the chance rises: ${basis.slice(0, 6).join(', ')}.`"
            :chart="odds"
            :file="`${fileName}-odds`"
            :height="190"
          />
        </div>
        <div class="stack">
          <DriverList v-if="told.landing.left || told.landing.rough" :asked="asked" />
          <TeamFinishes :teams="told.teams" :by="told.by" :release="release?.key" />
          <PlainAnswers
            v-model:share="share"
            v-model:days="bufferDays"
            v-model:ends="trendEnds"
            :found="told"
          />
          <section class="card" aria-label="What it rests on">
            <h3>What it rests on</h3>
            <ul class="small">
              <li v-for="b in basis" :key="b">{{ b }}</li>
              <li v-for="p in told.paces" :key="p.team">
                {{ store.teams.get(p.team)?.name }}: {{ paceText(p) }}
              </li>
            </ul>
          </section>
        </div>
      </div>
      <Teleport defer to="#forecast-aside">
        <WhatIf v-model="asIf" :teams="told.teams.map((t) => t.key)" :release="release?.key" :about="about" />
      </Teleport>
    </template>
  </AnswerPage>
</template>
