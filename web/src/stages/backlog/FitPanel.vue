<script setup lang="ts">
import { computed, onUnmounted, ref, watch } from 'vue'
import { answer, client } from '@/api/client'
import { useAnswer } from '@/line/useAnswer'
import { shortDate } from '@/ui/dates'
import { amount, count, percent, sized } from '@/ui/format'
import { useBacklog } from './backlog'
import { dateAt } from '@/line/landingRange'
import { useProgram } from '@/line/program'
import DateField from '@/ui/DateField.vue'

/** What of the list is done by a date, and when some of it is; odds and plain arithmetic. */
const store = useProgram()
const backlog = useBacklog()
const by = ref('')
const about = ref<'all' | 'above' | 'selected'>('all')
const buffer = ref(20)

/** The release that the view is of, if it is of one alone. */
const ofView = computed(() => {
  const one = backlog.view.filter?.conditions?.find(
    (c) => c.field === 'release' && c.is === 'is' && c.values?.length === 1,
  )
  return one?.values?.[0]
})
const due = computed(() => {
  const dated = (store.program.releases ?? []).filter((r) => r.due)
  return (dated.find((r) => r.key === ofView.value) ?? dated[0])?.due ?? ''
})
watch(due, (day) => (by.value ||= day), { immediate: true })
watch(ofView, (key) => {
  const release = store.releases.get(key ?? '')
  if (release?.due) by.value = release.due
})

const when = computed(() => {
  if (about.value === 'selected') return backlog.selection
  if (about.value !== 'above') return undefined
  const at = backlog.places.get(backlog.cursor.key) ?? -1
  return backlog.shown.slice(0, at + 1)
})

const { answer: fit, failure } = useAnswer(
  () =>
    answer(
      client.POST('/api/v1/programs/{id}/fit', {
        params: { path: { id: store.id } },
        body: {
          view: backlog.view,
          words: backlog.words,
          by: by.value || undefined,
          when: when.value,
          buffer: Math.max(0, Math.min(500, Number(buffer.value) || 0)) / 100,
        },
      }),
    ),
  [by, buffer, when, () => store.revision, () => JSON.stringify(backlog.view.filter), () => backlog.words],
  {
    wait: 5,
    then: (found) => {
      backlog.cuts = found.by ? found.lines : []
      backlog.chances = new Map(found.by ? found.items.map((key, i) => [key, found.chances[i]]) : [])
    },
  },
)
onUnmounted(() => {
  backlog.cuts = []
  backlog.chances = new Map()
})

const day = (date?: string) => (date ? shortDate(date, store.todayDay) : 'beyond the time played')
const at = (odds: number) => dateAt(fit.value?.when, odds)
const cut = (odds: number) => fit.value?.lines.find((l) => l.odds === odds)
const teamName = (key: string) => store.teams.get(key)?.name ?? key
const asks = computed(
  () =>
    ({
      all: 'all of this list',
      above: `everything down to ${backlog.cursor.key || 'the cursor'}`,
      selected: count(backlog.selection.length, 'selected item'),
    })[about.value],
)
</script>

<template>
  <section class="fit" aria-label="Where the date falls">
    <div class="row">
      <label class="field"
        ><span class="label">Release</span>
        <select
          class="in"
          aria-label="Release"
          :value="(store.program.releases ?? []).find((r) => r.due === by)?.key ?? ''"
          @change="by = store.releases.get(($event.target as HTMLSelectElement).value)?.due ?? by"
        >
          <option value="">another date</option>
          <option
            v-for="r in (store.program.releases ?? []).filter((x) => x.due)"
            :key="r.key"
            :value="r.key"
          >
            {{ r.name }}
          </option>
        </select></label
      >
      <label class="field"><span class="label">Done by</span><DateField v-model="by" /></label>
    </div>
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    <template v-if="fit">
      <template v-if="fit.by">
        <p class="answer" role="status">
          By {{ day(fit.by) }} the first <b>{{ cut(85)?.items }}</b> of
          {{ count(fit.items.length, 'item') }} are done with 85&nbsp;% odds, the first
          <b>{{ cut(50)?.items }}</b> with 50&nbsp;%.
        </p>
        <p class="quiet">
          All of them: <b>{{ percent(fit.all) }}</b>.
          <template v-if="!backlog.ranked"
            >Lines are drawn when the list is by rank and without heads.</template
          >
        </p>
        <table class="table">
          <thead>
            <tr>
              <th>Team</th>
              <th class="n">85 %</th>
              <th class="n">50 %</th>
              <th class="n">of</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="t in fit.teams" :key="t.team">
              <td>{{ teamName(t.team) }}</td>
              <td class="n" :title="t.lines[0].after ? `down to ${t.lines[0].after}` : 'none'">
                {{ t.lines[0].items }}
              </td>
              <td class="n" :title="t.lines[1].after ? `down to ${t.lines[1].after}` : 'none'">
                {{ t.lines[1].items }}
              </td>
              <td class="n">{{ t.items }}</td>
            </tr>
          </tbody>
        </table>
        <p class="hint">
          Teams take the work by rank; what is under way comes first, needs and pinned places are kept, and
          what is ranked in between but not in this list takes its time too.
        </p>
      </template>
      <p v-if="fit.leftOut.length" class="left">
        Not counted: {{ fit.leftOut.slice(0, 6).join(', ') }}{{ fit.leftOut.length > 6 ? '…' : '' }}, without
        a team or a size to go by.
      </p>
      <h3>When is it done?</h3>
      <div class="pick" role="radiogroup" aria-label="What is asked about">
        <button
          v-for="[v, label] in [
            ['all', 'The list'],
            ['above', 'Down to the cursor'],
            ['selected', 'The selection'],
          ] as const"
          :key="v"
          class="chip"
          role="radio"
          :aria-checked="about === v"
          @click="about = v"
        >
          {{ label }}
        </button>
      </div>
      <p v-if="fit.when?.left" class="answer">
        {{ asks[0].toUpperCase() + asks.slice(1) }}: done <b>{{ day(at(50)) }}</b> with 50&nbsp;% odds,
        <b>{{ day(at(85)) }}</b> with 85&nbsp;%.
      </p>
      <p v-else class="quiet">Nothing of it is left to do.</p>
      <h3>Plain arithmetic</h3>
      <label class="buffer"
        >Sizes ÷ velocity × iteration, and
        <input
          v-model="buffer"
          class="in number"
          type="number"
          min="0"
          max="500"
          step="5"
          aria-label="Buffer in percent"
        />
        % on top</label
      >
      <p v-if="fit.simple.teams.length" class="answer">
        Done
        <b>{{ fit.simple.done ? day(fit.simple.done) : 'at no date: a team has no velocity' }}</b><template
          v-if="fit.by"
          >; the first <b>{{ fit.simple.fits }}</b> fit by {{ day(fit.by) }}</template
        >.
      </p>
      <details>
        <summary>Its steps</summary>
        <ul>
          <li v-for="t in fit.simple.teams" :key="t.team">
            <b>{{ teamName(t.team) }}</b>
            {{ sized(t.units, store.teams.get(t.team)) }} in {{ count(t.items, 'item')
            }}<template v-if="t.unsized"
              >, {{ t.unsized }} of them without a size, at the mean of {{ amount(t.mean ?? 0) }}</template
            >;
            <template v-if="t.velocity"
              >÷ {{ amount(t.velocity) }} an iteration ({{ t.basis }}) =
              {{ amount(t.iterations) }} iterations; × {{ t.days }} days ×
              {{ amount(1 + fit.simple.buffer.share) }} = {{ t.totalDays }} days, to
              {{ day(t.done) }}</template
            ><template v-else>no velocity to go by</template>
          </li>
        </ul>
        <p class="hint">It knows neither needs nor days off, nor what is ranked in between; the odds do.</p>
      </details>
    </template>
  </section>
</template>

<style scoped>
.fit {
  display: grid;
  gap: 8px;
}

p {
  margin: 0;
}

.answer {
  font-size: 14px;
  line-height: 1.4;
}

.hint,
.left {
  color: var(--quiet);
  font-size: 12px;
}

.left {
  color: var(--caution);
}

h3 {
  margin-top: 6px;
  font-size: 14px;
}

.pick {
  display: flex;
  gap: 4px;
}

.chip[aria-checked='true'] {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--panel);
}

.buffer {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}

.buffer .in {
  width: 62px;
  height: 26px;
}

ul {
  margin: 6px 0;
  padding-left: 16px;
}

.table td {
  padding: 3px 8px;
}
</style>
