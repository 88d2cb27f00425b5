<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, watch } from 'vue'
import { answer, client } from '@/api/client'
import type { Change } from '@/api/types'
import { useAnswer } from '@/line/useAnswer'
import { shortDate } from '@/ui/dates'
import { amount, count, percent, sized } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useSetUp } from '@/stages/setup/setup'
import type { CapacityCell } from './rows'

/** How a capacity comes about, step by step, and setting it by hand. */
const props = defineProps<{ team: string; iteration: string; cell?: CapacityCell }>()
const store = useProgram()
const setUp = useSetUp()
const team = computed(() => store.teams.get(props.team))
const it = computed(() => team.value?.iterations?.find((x) => x.key === props.iteration))
const facts = computed(() => store.iterationFacts.get(props.team, props.iteration))
/** Of what is closed, what was committed and completed counts. */
const past = computed(() => it.value?.state === 'closed' && it.value.completed !== undefined)
const form = reactive({ capacity: '' as number | '', note: '' })
const may = computed(() =>
  store.may({ op: 'set', kind: 'iteration', in: props.team, key: props.iteration, field: 'capacity' }),
)

const { answer: detail, failure } = useAnswer(
  () =>
    answer(
      client.GET('/api/v1/programs/{id}/capacity', {
        params: { path: { id: store.id }, query: { team: props.team, iteration: props.iteration } },
      }),
    ),
  [() => props.team, () => props.iteration, () => store.revision],
  { forget: ([team, iteration], [before, other]) => team !== before || iteration !== other },
)
watch(
  () => [props.team, props.iteration],
  () => {
    form.capacity = it.value?.capacity ?? ''
    form.note = it.value?.capacityNote ?? ''
  },
  { immediate: true },
)

const set = (field: string, value: unknown): Change => ({
  op: 'set',
  kind: 'iteration',
  in: props.team,
  key: props.iteration,
  field,
  value,
})
const name = computed(() => it.value?.name || props.iteration)
const save = () =>
  store.apply(`Capacity of ${name.value}`, [
    set('capacity', form.capacity),
    set('capacityNote', form.note.trim()),
  ])
async function clear(): Promise<void> {
  const changes = [set('capacity', null), set('capacityNote', '')]
  if (await store.apply(`Clear the capacity of ${name.value}`, changes))
    Object.assign(form, { capacity: '', note: '' })
}

/** The sum, in words and figures. */
const steps = computed(() => {
  const d = detail.value
  if (!d) return []
  const worked = `${amount(d.daysWorked)} of ${amount(d.daysFull)} member-days are there`
  const length = Math.abs(d.length - 1) > 1e-9 ? `, in ${percent(d.length)} of the cadence’s length` : ''
  const lines: string[] = []
  if (d.basis === 'by hand')
    lines.push(
      `Set by hand${d.setBy ? ` by ${d.setBy}` : ''}${d.setAt ? ` on ${shortDate(d.setAt.slice(0, 10), store.todayDay)}` : ''}${d.note ? `: ${d.note}` : ''}`,
      `It would be ${sized(d.reckoned, team.value)} without.`,
    )
  const basis =
    d.basis === 'by hand' ? (d.velocity === undefined ? 'measured velocity' : 'agreed velocity') : d.basis
  if (d.basis === 'available time')
    lines.push(`${worked}`, `× focus ${percent(d.focus)} = ${sized(d.reckoned, team.value)}`)
  else if (basis === 'agreed velocity')
    lines.push(
      `Agreed velocity ${sized(d.velocity, team.value)}, for ${amount(d.daysAgreed)} member-days`,
      `${amount(d.daysWorked)} member-days are there: × ${percent(d.daysAgreed ? d.daysWorked / d.daysAgreed : 0)}${length}`,
      `= ${sized(d.reckoned, team.value)}`,
    )
  else if (d.samples)
    lines.push(
      `Measured over ${d.samples} closed iterations: ${amount(d.pace * 100) === '0' ? '0' : (Math.round(d.pace * 1000) / 1000).toString()} a member-day`,
      `× ${amount(d.daysWorked)} member-days = ${sized(d.reckoned, team.value)}`,
    )
  else
    lines.push(
      'Nothing to go by: no agreed velocity and no closed iteration. Agree on a velocity, or set it by hand.',
    )
  return lines
})
/** When somebody is off within the iteration. */
function offDates(person: string): string {
  const [start, end] = [it.value?.start ?? '', it.value?.end ?? '']
  return (store.program.people?.find((p) => p.key === person)?.daysOff ?? [])
    .filter((d) => d.from <= end && d.to >= start)
    .map(
      (d) =>
        (d.from === d.to ? '' : `${shortDate(d.from, store.todayDay)} – `) + shortDate(d.to, store.todayDay),
    )
    .join(', ')
}
const suggestion = computed(() =>
  setUp.velocities.get(props.team)?.coming.find((s) => s.iteration === props.iteration),
)
</script>

<template>
  <aside class="figure" aria-label="How the capacity comes about">
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    <template v-if="it && team && detail">
      <h2>
        {{ name }} <span class="quiet">{{ team.name }}</span>
      </h2>
      <p class="quiet">{{ shortDate(it.start, store.todayDay) }} – {{ shortDate(it.end, store.todayDay) }}</p>
      <p v-if="past">
        <b class="big">{{ sized(it.completed, team) }}</b> completed{{
          it.committed === undefined ? '' : `, ${sized(it.committed, team)} committed`
        }}
      </p>
      <p v-else>
        <b class="big">{{ sized(detail.capacity, team) }}</b> capacity,
        {{ sized(facts?.load ?? 0, team) }} placed
      </p>
      <ul class="steps">
        <li v-for="s in steps" :key="s">{{ s }}</li>
      </ul>
      <p v-if="cell?.large?.length" class="flag">
        {{ cell.large.length }} large items for one person here: {{ cell.large.join(', ') }}
      </p>
      <section v-if="cell?.items" :aria-label="`What ${cell.who} has here`">
        <h3>{{ cell.who }}: {{ sized(cell.load, team) }} of {{ sized(cell.capacity, team) }}</h3>
        <p v-if="!cell.items.length" class="quiet">Nothing that has a size.</p>
        <ul v-else class="load">
          <li v-for="key in cell.items" :key="key">
            <RouterLink :to="{ name: 'backlog', params: { id: store.id }, query: { item: key } }">
              <b>{{ key }}</b> {{ store.items.get(key)?.title }}
            </RouterLink>
            <span class="n">{{ sized(store.items.get(key)?.size, team) }}</span>
          </li>
        </ul>
      </section>
      <table v-if="detail.seats.length" class="table">
        <thead>
          <tr>
            <th>Who</th>
            <th class="n">Days there</th>
            <th class="n">Part</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in detail.seats" :key="s.person + s.from">
            <td>
              {{ s.name }} <span class="quiet">{{ percent(s.share) }}</span>
              <div v-if="s.off" class="small">{{ count(s.off, 'day') }} off: {{ offDates(s.person) }}</div>
              <div v-if="s.present < s.full" class="small quiet">
                {{
                  s.from && s.from > it.start
                    ? `from ${shortDate(s.from, store.todayDay)}`
                    : `to ${shortDate(s.to, store.todayDay)}`
                }}
              </div>
            </td>
            <td class="n">{{ s.worked }} of {{ s.full }}</td>
            <td class="n">{{ amount(s.part) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-for="h in detail.holidays" :key="h.date" class="small">
        {{ h.name }}, {{ shortDate(h.date, store.todayDay) }}: holiday
      </p>
      <form v-if="may && it.state !== 'closed'" class="form hand" @submit.prevent="save">
        <div class="row">
          <div class="field">
            <label for="cap">Set by hand, {{ team.unit }}</label>
            <input
              id="cap"
              v-model.number="form.capacity"
              class="in number"
              type="number"
              min="0"
              step="any"
              required
            />
          </div>
          <div class="field wide">
            <label for="cap-note">Why</label>
            <input id="cap-note" v-model="form.note" class="in" maxlength="200" required />
          </div>
        </div>
        <p v-if="suggestion && suggestion.trust !== 'nothing to go by'" class="small quiet">
          The past suggests {{ amount(suggestion.amounts[0]) }} at even odds,
          {{ amount(suggestion.amounts[2]) }} at 85 %.
        </p>
        <div class="buttons">
          <Button
            v-if="it.capacity !== undefined"
            type="button"
            text
            size="small"
            label="Clear"
            @click="clear"
          />
          <Button type="submit" size="small" label="Set" />
        </div>
      </form>
    </template>
  </aside>
</template>

<style scoped>
.figure {
  flex: none;
  width: 330px;
  overflow: auto;
  padding: 12px 16px;
  border-left: 1px solid var(--rule);
  background: var(--panel);
}

h2 {
  font-size: 17px;
}

p {
  margin: 2px 0 6px;
}

.big {
  font: 650 20px var(--heading);
}

.steps {
  margin: 4px 0 10px;
  padding-left: 16px;
}

h3 {
  margin-top: 10px;
  font-size: 14px;
}

.load {
  display: grid;
  gap: 3px;
  margin: 4px 0 12px;
  padding: 0;
  list-style: none;
}

.load li {
  display: flex;
  gap: 8px;
  justify-content: space-between;
}

.load a {
  color: inherit;
}

.load .n {
  flex: none;
}

.hand {
  margin-top: 12px;
  padding-top: 10px;
  border-top: 1px solid var(--rule);
}

.buttons {
  margin-top: 0;
}
</style>
