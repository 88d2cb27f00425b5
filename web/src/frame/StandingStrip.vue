<script setup lang="ts">
import Button from 'primevue/button'
import { computed, nextTick } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Landing } from '@/api/types'
import { releaseColour } from '@/ui/colours'
import { shortDate, toDay } from '@/ui/dates'
import { count, days, percent } from '@/ui/format'
import { useBacklog } from '@/stages/backlog/backlog'
import { useViews } from '@/views/views'
import { useDraft } from '@/stages/plan/draft'
import { useLevers } from '@/stages/plan/levers'
import { usePlan, type Focus } from '@/stages/plan/plan'
import { cannotLand, dateAt, landingBasis, landingRange, paceText } from '@/line/landingRange'
import { useProgram } from '@/line/program'

const store = useProgram()
const plan = usePlan()
const draft = useDraft()
const levers = useLevers()

const route = useRoute()
const router = useRouter()
const backlog = useBacklog()
const views = useViews()
/** A count leads to exactly what it counts: in the backlog to a view, else in the plan. */
async function lead(focus: Focus): Promise<void> {
  const key = { notReady: 'not-ready', unplaced: 'unscheduled', over: '', broken: '' }[focus]
  const view = views.vocabulary?.readyMade.find((v) => v.key === key)
  if (route.name === 'backlog' && view) backlog.show(view)
  else await inPlan(() => plan.show(focus))
}

/** What else the strip leads to is in the plan stage. */
async function inPlan(what: () => void): Promise<void> {
  if (route.name !== 'plan') await router.push({ name: 'plan', params: { id: store.id } })
  await nextTick()
  what()
}
const mayDraft = computed(() => store.mine.role !== 'viewer' && store.mine.role !== 'member')

const cards = computed(() =>
  (store.program.releases ?? []).map((release, index) => {
    const now = store.landings?.releases.find((x) => x.key === release.key)
    const before = store.landings?.before?.find((x) => x.key === release.key)
    const even = dateAt(now, 50)
    const was = dateAt(before, 50)
    const moved = even && was ? toDay(even) - toDay(was) : undefined
    const chance = now?.chance !== undefined && before?.chance !== undefined ? now.chance - before.chance : 0
    return { release, now, moved, chance, colour: releaseColour(index) }
  }),
)

/** What a landing rests on, for who wants to know. */
const basis = (landing: Landing) =>
  [
    ...landingBasis(landing, store.todayDay),
    '',
    ...(store.landings?.teams ?? []).map((t) => `${store.teams.get(t.team)?.name ?? t.team}: ${paceText(t)}`),
  ].join('\n')

const delta = (moved: number | undefined, chance: number) => {
  if (moved) return { text: days(moved), worse: moved > 0 }
  const points = Math.round(chance * 100)
  if (points) return { text: `${points > 0 ? '+' : '−'}${Math.abs(points)} % chance`, worse: points < 0 }
  return undefined
}

const counts = computed<{ focus: Focus; n: number; text: string; bad: boolean }[]>(() => {
  const c = store.counts
  return [
    { focus: 'over', n: c.over.length, text: 'over capacity', bad: c.over.length > 0 },
    {
      focus: 'broken',
      n: c.broken.length,
      text: c.broken.length === 1 ? 'broken need' : 'broken needs',
      bad: c.broken.length > 0,
    },
    { focus: 'notReady', n: c.notReady.length, text: 'not ready', bad: false },
    { focus: 'unplaced', n: c.unplaced.length, text: 'unplaced', bad: false },
  ]
})
</script>

<template>
  <section class="strip" data-region aria-label="Where the plan stands">
    <div class="releases" tabindex="0" role="group" aria-label="Releases">
      <article v-for="card in cards" :key="card.release.key" class="release">
        <span class="mark" :style="{ background: card.colour }" />
        <div class="who">
          <h2 :title="card.release.name">{{ card.release.name }}</h2>
          <span class="quiet small"
            >{{ card.release.due ? `due ${shortDate(card.release.due, store.todayDay)}` : 'no due date'
            }}<template v-if="card.now?.left">
              ·
              <button
                class="mend"
                :aria-label="`Fix ${card.release.name}: recovery options`"
                title="Small changes that would help"
                @click="inPlan(() => levers.open({ release: card.release.key }))"
              >
                Fix…
              </button></template
            ></span
          >
        </div>
        <template v-if="!card.now"><span class="quiet">working out when it lands…</span></template>
        <template v-else-if="!card.now.left"><b>nothing left to do</b></template>
        <template v-else>
          <div :title="basis(card.now)">
            <b>{{ landingRange(card.now, store.todayDay) }}</b>
            <span v-if="card.now.cannot?.length" class="small bad">{{ cannotLand(card.now, 1) }}</span>
            <span v-else class="quiet small"
              >lands, 50 to 85 %{{
                card.now.sampled ? ` · ${count(card.now.sampled, 'size')} drawn` : ''
              }}</span
            >
          </div>
          <div v-if="card.now.chance !== undefined">
            <b class="chance">{{ percent(card.now.chance) }}</b>
            <span class="quiet small">on time</span>
          </div>
          <span
            v-if="delta(card.moved, card.chance)"
            :class="['delta', delta(card.moved, card.chance)!.worse ? 'worse' : 'better']"
            title="What the last edit did to the even-odds date, or else to the chance"
          >
            {{ delta(card.moved, card.chance)!.text }}
          </span>
        </template>
      </article>
      <p v-if="!cards.length" class="quiet none">This program has no releases yet.</p>
    </div>
    <div class="counts">
      <button
        v-for="c in counts"
        :key="c.focus"
        :class="['count', c.focus, { bad: c.bad }]"
        :aria-pressed="plan.focus === c.focus"
        :title="`Show these ${c.n}`"
        @click="lead(c.focus)"
      >
        <b>{{ c.n }}</b>
        <span class="small">{{ c.text }}</span>
      </button>
    </div>
    <Button
      class="draft"
      label="Draft a schedule"
      :disabled="!store.connected || !mayDraft"
      @click="inPlan(() => draft.start())"
    />
  </section>
</template>

<style scoped>
.mend {
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  text-decoration: underline;
  cursor: pointer;
}

.strip {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 58px;
  padding: 4px 16px;
  background: var(--panel);
  border-bottom: 1px solid var(--rule);
  flex: none;
}

.releases {
  display: flex;
  flex: 1;
  gap: 22px;
  min-width: 0;
  overflow-x: auto;
}

.release {
  display: flex;
  gap: 12px;
  align-items: center;
  flex: none;
}

.release > div {
  display: flex;
  flex-direction: column;
}

.mark {
  width: 4px;
  height: 36px;
  border-radius: 2px;
}

.who {
  max-width: 150px;
}

h2 {
  font-size: 15px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.release b {
  font: 650 14px/1.3 var(--heading);
  white-space: nowrap;
}

.release .chance {
  font-size: 17px;
  line-height: 1.1;
}

.delta {
  padding: 4px 8px;
  border-radius: 5px;
  font: 650 12px var(--heading);
  white-space: nowrap;
}

.bad {
  color: var(--over);
  font-weight: 600;
}

.worse {
  background: var(--over-soft);
  color: var(--over);
}

.better {
  background: var(--good-soft);
  color: var(--good);
}

.none {
  margin: 0;
}

.counts {
  display: flex;
  gap: 2px;
  padding-left: 8px;
  border-left: 1px solid var(--rule);
}

.count {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  padding: 3px 8px;
  border: 1px solid transparent;
  border-radius: 6px;
  background: none;
  cursor: pointer;
  white-space: nowrap;
}

.count:hover,
.count[aria-pressed='true'] {
  border-color: var(--edge);
  background: var(--tint);
}

.count b {
  font: 700 17px/1.1 var(--heading);
}

.count span {
  color: var(--quiet);
}

.over.bad b {
  color: var(--over);
}

.broken.bad b {
  color: var(--needs);
}

.draft {
  flex: none;
  font-weight: 650;
}
</style>
