<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, reactive, ref } from 'vue'
import { amount, count, sized } from '@/ui/format'
import type { IntentOf } from '@/api/intents'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import { titleOf } from '@/line/course'
import { useTrack, type Row, type Section } from './track'

/** Closes an iteration: where each item goes that is not done, and what will be noted. */
const props = defineProps<{ section: Section }>()
const emit = defineEmits<{ close: [] }>()
const store = useProgram()
const track = useTrack()
const proposals = useProposals()

type Unfinished = NonNullable<IntentOf<'close-iteration'>['unfinished']>[number]
type Goes = Unfinished['goes']

const team = computed(() => store.teams.get(props.section.team))
const it = computed(() => team.value?.iterations?.find((x) => x.key === props.section.under.iteration))
const label = computed(() => it.value?.name || it.value?.key || '')
/** By the cadence's rule. */
const usual = computed<Goes>(() =>
  store.program.cadences?.find((c) => c.key === team.value?.cadence)?.carryOver ? 'on' : 'back',
)
const next = computed(() => {
  const later = team.value?.iterations?.find(
    (x) => x.start > (it.value?.start ?? '') && x.state !== 'closed' && x.end >= store.today,
  )
  return later?.name || later?.key
})
const open = computed(() => props.section.rows.filter((r) => r.item.state !== 'done'))
const goes = reactive<Record<string, Goes>>({})
const done = reactive<Record<string, number | ''>>({})
const goesOf = (row: Row): Goes => goes[row.item.key] ?? usual.value
/** What is done of one that is split: half, until somebody says how much. */
const doneOf = (row: Row): number => {
  const said = done[row.item.key]
  return said === undefined || said === '' ? Math.round((row.item.size ?? 0) * 5) / 10 : said
}
const mayDivide = (row: Row) => (row.item.size ?? 0) > 0
const wrong = (row: Row) =>
  goesOf(row) === 'split' && !(doneOf(row) > 0 && doneOf(row) < (row.item.size ?? 0))
/** Whether the next one opens. */
const opens = ref<IntentOf<'close-iteration'>['next']>()
const noted = computed(() => {
  const parts = open.value.filter((r) => goesOf(r) === 'split')
  return {
    items: props.section.under.done.items + parts.length,
    size: props.section.under.done.size + parts.reduce((sum, r) => sum + doneOf(r), 0),
  }
})

async function close(): Promise<void> {
  const unfinished = open.value
    .filter((r) => goesOf(r) !== usual.value)
    .map((r): Unfinished => {
      const way = goesOf(r)
      return { item: r.item.key, goes: way, ...(way === 'split' ? { done: doneOf(r) } : {}) }
    })
  await proposals.propose({
    do: 'close-iteration',
    team: props.section.team,
    key: props.section.under.iteration,
    unfinished,
    next: opens.value,
  })
  emit('close')
}
</script>

<template>
  <Dialog
    visible
    modal
    :header="`Close ${label}`"
    :style="{ width: '780px' }"
    @update:visible="emit('close')"
  >
    <form class="form" @submit.prevent="close">
      <p>
        <b>{{ sized(noted.size, team) }}</b> and {{ count(noted.items, 'item') }} will be noted as
        completed<template v-if="it?.committed !== undefined">
          of {{ sized(it.committed, team) }} committed</template
        >. The measured velocity follows.
      </p>
      <table v-if="open.length" class="table">
        <thead>
          <tr>
            <th scope="col">Not done</th>
            <th scope="col">Where it is</th>
            <th scope="col">Where it goes</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in open" :key="row.item.key">
            <td>
              <b>{{ row.item.key }}</b> {{ row.item.title }}
              <span class="quiet">{{ sized(row.item.size, team) }}</span>
            </td>
            <td>{{ titleOf(track.course[row.at]) }}</td>
            <td>
              <div class="goes">
                <select
                  class="in"
                  :value="goesOf(row)"
                  :aria-label="`Where ${row.item.key} goes`"
                  @change="goes[row.item.key] = ($event.target as HTMLSelectElement).value as Goes"
                >
                  <option value="on">on, into {{ next ?? 'the next one' }}</option>
                  <option value="back">back to the backlog</option>
                  <option v-if="mayDivide(row)" value="split">split at what is done</option>
                </select>
                <label v-if="goesOf(row) === 'split'" class="check">
                  <input
                    class="in number"
                    type="number"
                    step="any"
                    min="0"
                    :max="row.item.size"
                    :value="doneOf(row)"
                    :aria-label="`What is done of ${row.item.key}`"
                    :aria-invalid="wrong(row)"
                    @input="done[row.item.key] = ($event.target as HTMLInputElement).valueAsNumber"
                  />
                  of {{ amount(row.item.size ?? 0) }} done
                </label>
              </div>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else>Everything in it is done.</p>
      <p v-if="open.some(wrong)" class="failure" role="alert">
        What is done of an item that is split lies between nothing and its size.
      </p>
      <label class="check"
        >{{ next ?? 'The next one' }}
        <select v-model="opens" class="in" aria-label="When the next iteration opens">
          <option :value="undefined">opens if its first day has come or is tomorrow</option>
          <option value="open">opens at once</option>
          <option value="wait">waits until it is started</option>
        </select>
      </label>
      <div class="buttons">
        <Button type="button" outlined label="Cancel" @click="emit('close')" />
        <Button
          type="submit"
          :label="`Close ${label}…`"
          :disabled="open.some(wrong) || proposals.working || !store.connected"
        />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
p {
  margin: 0;
}

td {
  padding: 4px 8px;
  vertical-align: middle;
}

.goes {
  display: flex;
  gap: 8px;
  align-items: center;
}

.goes select {
  width: 190px;
}

.goes label {
  white-space: nowrap;
}
</style>
