<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, nextTick, reactive, ref, watch } from 'vue'
import { answer, client, wordsOf } from '@/api/client'
import { RequestError } from '@/api/client'
import type { Merge, MergeChoice, MergeConflict, MergeRow } from '@/api/types'
import { describeChange, fieldInWords, Names, valueInWords } from '@/line/describeChange'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'
import { useAnswer } from '@/line/useAnswer'
import { asDate, timeText } from '@/ui/dates'
import { count } from '@/ui/format'
import EffectList from './EffectList.vue'
import LandingsTable from './LandingsTable.vue'

/** What publishing the scenario in view, or bringing it up to date, would do: chosen, settled, and then made. */
const store = useProgram()
const scenarios = useScenarios()
const publishing = computed(() => scenarios.merging === 'publish')
const back = computed(() => scenarios.merging === 'take-back')
/** What may be chosen among: of a scenario that is brought up to date nothing is left out. */
const choosing = computed(() => publishing.value || back.value)
const title = computed(() => {
  if (back.value) return `Take back “${scenarios.back?.label}”`
  return publishing.value ? `Publish “${scenarios.name}”` : `Bring “${scenarios.name}” up to date`
})
/** What the two sides are called: as it stands, and as it would be. */
const sides = computed(() =>
  back.value
    ? { live: 'As it is now', scenario: 'As it was before', ofLive: 'it is now', ofScenario: 'it was before' }
    : { live: 'Live plan', scenario: 'Scenario', ofLive: 'in the live plan', ofScenario: 'in the scenario' },
)
const does = computed(() => {
  if (back.value) return 'What that does to the plan'
  return publishing.value ? 'What it does to the live plan' : 'What it does to the scenario'
})

const leftOut = reactive(new Map<string, MergeRow>())
const taken = reactive(new Map<string, 'scenario' | 'live'>())
const ofClass = ref('')
const ofRelease = ref('')
/** Whether the plan of before is frozen as a baseline: offered at the first publication. */
const freezes = ref(true)
const offers = computed(() => publishing.value && !scenarios.baselines.length && scenarios.mayFreeze)
const freezing = computed(() => offers.value && freezes.value)
const busy = ref(false)
const failure = ref('')
watch(
  () => scenarios.merging,
  () => {
    leftOut.clear()
    taken.clear()
    ofClass.value = ofRelease.value = failure.value = ''
    first = true
  },
)
/** What one might not have made in the live plan is left out at first. */
let first = true

const rowKey = (r: MergeRow) => [r.kind, r.in, r.key, r.op, r.field].join('\n')
const conflictKey = (c: MergeConflict) => [c.kind, c.in, c.key, c.field, c.sort].join('\n')

const choice = computed<MergeChoice>(() => ({
  leaveOut: choosing.value
    ? [...leftOut.values()].map((r) => ({ kind: r.kind, in: r.in, key: r.key, op: r.op, field: r.field }))
    : [],
  settle: (merge.value?.conflicts ?? [])
    .filter((c) => taken.has(conflictKey(c)))
    .map((c) => ({
      kind: c.kind,
      in: c.in,
      key: c.key,
      field: c.field,
      sort: c.sort as never,
      take: taken.get(conflictKey(c)) ?? 'live',
    })),
}))

const merge = ref<Merge>()
const { failure: unasked, asking } = useAnswer(
  (overtaken) =>
    scenarios.merging
      ? answer(
          client.POST('/api/v1/programs/{id}/scenario/merge', {
            params: { path: { id: store.id } },
            body: {
              way: scenarios.merging,
              revision: back.value ? scenarios.back?.revision : undefined,
              choice: choice.value,
              landings: true,
            },
            signal: overtaken,
          }),
        )
      : undefined,
  [
    () => scenarios.merging,
    () => store.revision,
    () => store.live,
    () => leftOut.size,
    () => [...taken.values()].join(),
  ],
  {
    wait: 150,
    then: (found) => {
      merge.value = found
      const not = found.rows.filter((r) => !r.may)
      if (first && publishing.value && not.length) for (const r of not) leftOut.set(rowKey(r), r)
      first = false
    },
  },
)

const names = computed(() => new Names(store.program))
const classes: Record<string, string> = {
  scope: 'Scope',
  places: 'Places',
  sizes: 'Sizes',
  ranks: 'Ranks',
  needs: 'Needs',
  capacity: 'Capacity',
  dates: 'Dates',
  progress: 'Progress',
  words: 'Words',
  'set-up': 'Set-up',
}
const rows = computed(() => merge.value?.rows ?? [])
const inClasses = computed(() => Object.keys(classes).filter((c) => rows.value.some((r) => r.class === c)))
const inReleases = computed(() => [...new Set(rows.value.map((r) => r.release ?? ''))].filter(Boolean))
const shown = computed(() =>
  rows.value.filter(
    (r) =>
      (!ofClass.value || r.class === ofClass.value) && (!ofRelease.value || r.release === ofRelease.value),
  ),
)
const listed = 200
const wordsOfRow = (r: MergeRow) => describeChange({ ...r, at: undefined }, names.value)
const chosen = computed(() => rows.value.length - leftOut.size)

function take(r: MergeRow, is: boolean): void {
  if (is) leftOut.delete(rowKey(r))
  else leftOut.set(rowKey(r), r)
}
const takeAll = (is: boolean) => shown.value.forEach((r) => r.may && take(r, is))

const conflicts = computed(() => merge.value?.conflicts ?? [])
const sorts: Record<string, string> = {
  'both set': 'Both changed it',
  'they removed': 'Removed in the live plan, changed in the scenario',
  'you remove': 'Removed in the scenario, changed in the live plan',
  'both added': 'Both added one',
  'both moved': 'Both moved it',
}
const ofSort = computed(() =>
  Object.entries(sorts)
    .map(([sort, title]) => ({ sort, title, list: conflicts.value.filter((c) => c.sort === sort) }))
    .filter((g) => g.list.length),
)
const settleAll = (list: MergeConflict[], side: 'scenario' | 'live') =>
  list.forEach((c) => taken.set(conflictKey(c), side))
const thing = (c: MergeConflict) => {
  const named = c.kind === 'need' ? `${c.in} needs ${c.key}` : `${c.name} ${c.title ?? ''}`.trim()
  return c.field ? `${named}: ${fieldInWords(c)}` : named
}
const inLive = (c: MergeConflict) => {
  if (c.sort === 'they removed') return 'removed'
  return c.sort === 'you remove'
    ? 'changed'
    : c.sort === 'both moved'
      ? 'its place'
      : valueInWords(c, c.live, names.value)
}
const inScenario = (c: MergeConflict) => {
  if (c.sort === 'you remove') return 'removed'
  return c.sort === 'they removed'
    ? 'kept'
    : c.sort === 'both moved'
      ? 'its place'
      : valueInWords(c, c.mine, names.value)
}

const outcome = computed(() => merge.value?.outcome)
const ready = computed(
  () =>
    !!outcome.value &&
    !merge.value?.open &&
    !asking.value &&
    !busy.value &&
    (!choosing.value || outcome.value.changes > 0),
)

async function make(): Promise<void> {
  if (!ready.value) return
  busy.value = true
  failure.value = ''
  try {
    const digest = outcome.value?.digest
    if (publishing.value) {
      const freeze = freezing.value ? `Before “${scenarios.name}”` : ''
      const done = await scenarios.publish(choice.value, digest)
      scenarios.merging = undefined
      await scenarios.show({})
      await nextTick() // a baseline is the live plan's: that has to be in view
      if (freeze) await scenarios.freeze(freeze, String(done.revision - 1))
      store.notice = {
        severity: 'info',
        text: `${done.label}: one step in the live plan, which undo takes back.`,
      }
    } else if (
      await store.mean(
        back.value
          ? { do: 'take-back', edit: scenarios.back?.revision ?? 0, choice: choice.value }
          : { do: 'bring-up-to-date', choice: choice.value },
        { digest },
      )
    ) {
      scenarios.merging = undefined
    }
  } catch (error) {
    failure.value =
      error instanceof RequestError && error.status === 409
        ? 'The live plan has changed meanwhile, so nothing was done yet. This is what it would do now.'
        : wordsOf(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Dialog
    :visible="!!scenarios.merging"
    modal
    :header="title"
    :style="{ width: '860px' }"
    @update:visible="scenarios.merging = undefined"
  >
    <p v-if="unasked || failure" class="failure" role="alert">{{ unasked || failure }}</p>
    <p v-if="!merge && !unasked" role="status">Working out what it would do…</p>
    <template v-if="merge">
      <p v-if="back" class="quiet lead">
        What this edit did is taken back, and what was done since stays. Where that is about the same, it is
        for you to settle.
      </p>
      <p v-else-if="!publishing" class="quiet lead">
        What the scenario changed is laid on the live plan as it is now. Undo takes it back.
      </p>
      <p v-if="merge.denied" class="failure" role="alert">{{ merge.denied }}</p>

      <section v-if="conflicts.length" aria-label="Conflicts">
        <h3>
          {{ count(conflicts.length, 'conflict') }}
          <span v-if="merge.open" class="flag small">{{ merge.open }} to settle</span>
          <span v-else class="quiet small">all settled</span>
        </h3>
        <div v-for="g in ofSort" :key="g.sort" class="group">
          <header>
            <b>{{ g.title }}</b>
            <span class="gap" />
            <template v-if="g.list.length > 1">
              <span class="quiet small">all {{ g.list.length }}:</span>
              <button class="plain-button" @click="settleAll(g.list, 'live')">as {{ sides.ofLive }}</button>
              <button class="plain-button" @click="settleAll(g.list, 'scenario')">
                as {{ sides.ofScenario }}
              </button>
            </template>
          </header>
          <table class="table">
            <thead>
              <tr>
                <th>What</th>
                <th>Began as</th>
                <th>{{ sides.live }}</th>
                <th>{{ sides.scenario }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="c in g.list.slice(0, listed)" :key="conflictKey(c)">
                <td>{{ thing(c) }}</td>
                <td>{{ c.sort === 'both set' ? valueInWords(c, c.base, names) : '' }}</td>
                <td v-for="side in ['live', 'scenario'] as const" :key="side">
                  <label class="check">
                    <input
                      type="radio"
                      :name="conflictKey(c)"
                      :checked="taken.get(conflictKey(c)) === side"
                      :aria-label="`${thing(c)}: as ${side === 'live' ? sides.ofLive : sides.ofScenario}, ${side === 'live' ? inLive(c) : inScenario(c)}`"
                      @change="taken.set(conflictKey(c), side)"
                    />
                    <span>
                      {{ side === 'live' ? inLive(c) : inScenario(c) }}
                      <span v-if="side === 'live' && c.by" class="quiet small"
                        ><br />{{ c.by }}, {{ timeText(c.at ?? '', asDate(store.todayDay)) }}</span
                      >
                    </span>
                  </label>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>

      <section v-if="choosing" :aria-label="back ? 'What is taken back' : 'What is published'">
        <h3>
          {{ back ? 'What is taken back' : 'What is published' }}
          <span class="quiet small">{{ chosen }} of {{ count(rows.length, 'change') }}</span>
        </h3>
        <div class="filters">
          <select v-model="ofClass" class="in" aria-label="Kind of change">
            <option value="">All kinds of change</option>
            <option v-for="c in inClasses" :key="c" :value="c">{{ classes[c] }}</option>
          </select>
          <select v-if="inReleases.length" v-model="ofRelease" class="in" aria-label="Release">
            <option value="">All releases</option>
            <option v-for="r in inReleases" :key="r" :value="r">
              {{ store.releases.get(r)?.name ?? r }}
            </option>
          </select>
          <span class="gap" />
          <button class="plain-button" @click="takeAll(true)">Take these {{ shown.length }}</button>
          <button class="plain-button" @click="takeAll(false)">Leave these out</button>
        </div>
        <ul class="rows">
          <li v-for="r in shown.slice(0, listed)" :key="rowKey(r)">
            <label class="check">
              <input
                type="checkbox"
                :checked="!leftOut.has(rowKey(r))"
                :disabled="!r.may"
                @change="take(r, ($event.target as HTMLInputElement).checked)"
              />
              <span>
                {{ wordsOfRow(r) }}
                <span v-if="r.there" class="quiet small">{{
                  back ? 'it is so already' : 'the live plan has it so'
                }}</span>
                <span v-else-if="!r.may" class="quiet small">not yours to change</span>
              </span>
            </label>
          </li>
          <li v-if="shown.length > listed" class="quiet">
            and {{ shown.length - listed }} more, taken as these are
          </li>
          <li v-if="!rows.length" class="quiet">
            {{ back ? 'It changed nothing.' : 'The scenario has changed nothing.' }}
          </li>
        </ul>
      </section>

      <ul v-if="outcome?.notes.length" class="notes">
        <li v-for="note in outcome.notes.slice(0, 20)" :key="note">{{ note }}</li>
        <li v-if="outcome.notes.length > 20">and {{ outcome.notes.length - 20 }} more</li>
      </ul>
      <section v-if="outcome" :aria-label="does">
        <h3>{{ does }}</h3>
        <LandingsTable v-if="outcome.landings?.length" :landings="outcome.landings" />
        <p v-if="!outcome.changes" class="quiet">
          {{
            back
              ? 'There is nothing to take back: the plan is as it was before.'
              : publishing
                ? 'There is nothing to publish: the live plan has all of it.'
                : 'The live plan has changed nothing that the scenario does not have.'
          }}
        </p>
        <EffectList v-else-if="outcome.effects" :effects="outcome.effects" />
      </section>
    </template>
    <label v-if="offers && merge && !merge.denied" class="check offer">
      <input v-model="freezes" type="checkbox" />
      Freeze the live plan of before as a baseline, to see later what became of it
    </label>
    <template #footer>
      <span v-if="asking && merge" class="quiet small" role="status">Working it out…</span>
      <span v-else-if="merge?.open" class="quiet small">Settle the conflicts first.</span>
      <Button text label="Leave it as it is" @click="scenarios.merging = undefined" />
      <Button
        :label="back ? 'Take it back' : publishing ? 'Publish' : 'Bring up to date'"
        :disabled="!ready"
        @click="make"
      />
    </template>
  </Dialog>
</template>

<style scoped>
h3 {
  display: flex;
  gap: 8px;
  align-items: baseline;
  margin: 14px 0 6px;
}

.lead {
  margin: 0;
}

.group header,
.filters {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-bottom: 4px;
}

.gap {
  flex: 1;
}

.table td {
  vertical-align: top;
}

.rows {
  max-height: 260px;
  overflow: auto;
  margin: 0;
  padding: 4px 8px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  list-style: none;
}

.rows li {
  padding: 2px 0;
  overflow-wrap: anywhere;
}

.offer {
  margin-top: 12px;
}

.notes {
  margin: 10px 0 0;
  padding-left: 16px;
}

.flag {
  color: var(--over);
  font-weight: 600;
}
</style>
