<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import type { WatchedPromise } from '@/api/types'
import { shortDate } from '@/ui/dates'
import { count, percent } from '@/ui/format'
import { useProgram } from '@/line/program'
import { promisedName } from '@/line/promised'
import { useProposals } from '@/line/proposals'
import PromiseForm from './PromiseForm.vue'
import SafetyMark from './SafetyMark.vue'

/** What was promised to whom, and how it stands: those to be kept first, the next day first. */
const props = defineProps<{ watched: WatchedPromise[]; caughtUp: () => Promise<void> }>()
const store = useProgram()
const proposals = useProposals()
const day = (date?: string) => shortDate(date, store.todayDay)
const may = (op: 'add' | 'remove') => store.may({ op, kind: 'promise' })
const mayTakeBack = computed(() => store.may({ op: 'set', kind: 'promise', field: 'withdrawn' }))

/** What is being promised; undefined: nothing. */
const giving = ref<{ of?: string; date?: string }>()
/** Begins to promise something. */
function give(of?: string, date?: string): void {
  if (may('add')) giving.value = { of, date }
}
defineExpose({ give })
async function given(key: string): Promise<void> {
  giving.value = undefined
  await props.caughtUp()
  await nextTick()
  document.querySelector<HTMLElement>(`[data-promise="${CSS.escape(key)}"]`)?.focus()
}

const rows = computed(() =>
  props.watched
    .map((w) => ({
      ...w,
      name: promisedName(store.program, w.promise),
      stands: w.word === 'stands',
      says: says(w),
    }))
    .sort((a, b) => Number(b.stands) - Number(a.stands) || a.promise.date.localeCompare(b.promise.date)),
)
/** How one stands, in words. */
function says(w: WatchedPromise): string {
  const days = Math.round(Math.abs(w.late))
  switch (w.word) {
    case 'kept':
      return `kept: landed on ${day(w.landed)}${days ? `, ${count(days, 'day')} early` : ''}`
    case 'missed':
      return w.landed
        ? `missed: landed on ${day(w.landed)}, ${count(days, 'day')} late`
        : `missed: has not landed${w.even ? `, by ${day(w.even)} at even odds` : ''}`
    case 'landed':
      return 'landed; nobody noted when'
    case 'withdrawn':
      return `taken back on ${day(w.promise.withdrawn)}`
    default:
      return w.even ? `lands by ${day(w.even)} at even odds` : 'lands beyond what is played'
  }
}
const takeBack = (w: WatchedPromise) =>
  store.apply(`Take the promise to ${w.promise.to} back`, [
    { op: 'set', kind: 'promise', key: w.promise.key, field: 'withdrawn', value: store.today },
  ])
const remove = (w: WatchedPromise) =>
  proposals.make({ do: 'remove', ref: { kind: 'promise', key: w.promise.key } })
</script>

<template>
  <section class="card" aria-label="What was promised">
    <header>
      <h3>What was promised</h3>
      <button v-if="may('add') && !giving" class="plain-button" @click="give()">Promise a date…</button>
    </header>
    <PromiseForm
      v-if="giving"
      :key="`${giving.of} ${giving.date}`"
      v-bind="giving"
      @leave="giving = undefined"
      @given="given"
    />
    <table v-if="rows.length" class="table">
      <thead>
        <tr>
          <th>What</th>
          <th>To whom</th>
          <th>By</th>
          <th class="n">Odds then</th>
          <th class="n">Now</th>
          <th />
          <th>How it stands</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="r in rows"
          :key="r.promise.key"
          :data-promise="r.promise.key"
          tabindex="-1"
          :class="{ over: !r.stands }"
        >
          <td>{{ r.name }}</td>
          <td>
            {{ r.promise.to }}
            <span v-if="r.promise.note" class="quiet small note">{{ r.promise.note }}</span>
          </td>
          <td class="day">{{ day(r.promise.date) }}</td>
          <td class="n">
            {{ r.promise.chance === undefined ? 'not known' : percent(r.promise.chance) }}
            <span class="quiet small">on {{ day(r.promise.made) }}</span>
          </td>
          <td class="n">
            <b>{{ r.chance === undefined ? '–' : percent(r.chance) }}</b>
          </td>
          <td><SafetyMark v-if="r.safety" :safety="r.safety" :fell="r.fell" /></td>
          <td class="says">{{ r.says }}</td>
          <td class="does">
            <button
              v-if="mayTakeBack && r.stands"
              class="link"
              :aria-label="`Take back what was promised to ${r.promise.to}`"
              @click="takeBack(r)"
            >
              Take back
            </button>
            <button
              v-if="may('remove')"
              class="round"
              :aria-label="`Remove the promise to ${r.promise.to}`"
              @click="remove(r)"
            >
              <i class="pi pi-trash" aria-hidden="true" />
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="!giving" class="quiet">
      Nothing is promised. A date that somebody is given is noted with the odds that it has that day, and
      watched from then on.
    </p>
  </section>
</template>

<style scoped>
header {
  display: flex;
  gap: 10px;
  align-items: baseline;
  justify-content: space-between;
}

.note {
  display: block;
  max-width: 280px;
}

.day,
.does,
.table td.n {
  white-space: nowrap;
}

.does {
  text-align: right;
}

.does .round {
  margin-left: 10px;
}

.over td {
  color: var(--quiet);
}

tr:focus-visible {
  outline: 2px solid var(--focus);
}
</style>
