<script setup lang="ts">
import { computed, ref } from 'vue'
import { answer, client } from '@/api/client'
import DateField from '@/ui/DateField.vue'
import { percent } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useDraft } from '@/line/useDraft'
import DraftLine from '@/ui/DraftLine.vue'
import { useQuestion } from './useQuestion'

/** What is promised, to whom, by when: with the odds that this day has before anything is noted. Escape leaves it. */
const props = defineProps<{ of?: string; date?: string }>()
const emit = defineEmits<{ leave: []; given: [key: string] }>()
const store = useProgram()
const works = computed(() => [
  ...(store.program.releases ?? []).map((r) => ({ of: `release:${r.key}`, name: r.name, date: r.due })),
  ...(store.program.milestones ?? []).map((m) => ({ of: `milestone:${m.key}`, name: m.name, date: m.date })),
])
const of = ref(props.of ?? works.value[0]?.of ?? '')
const date = ref(props.date ?? works.value.find((w) => w.of === of.value)?.date ?? '')
const made = ref(store.today)
const to = ref('')
const note = ref('')
const draft = useDraft({
  name: () => 'promise',
  read: () => ({ to: to.value, note: note.value }),
  start: () => ({ to: '', note: '' }),
  write: (typed) => {
    to.value = typed.to
    note.value = typed.note
  },
})
/** A release or a milestone, as the server takes it. */
const promised = computed(() => {
  const [kind, key] = of.value.split(/:(.*)/)
  return kind === 'milestone' ? { milestone: key } : { release: key }
})
const landing = useQuestion(
  (signal) =>
    date.value && made.value === store.today
      ? answer(
          client.POST('/api/v1/programs/{id}/forecast/when', {
            params: { path: { id: store.id } },
            body: { ...promised.value, by: date.value },
            signal,
          }),
        )
      : undefined,
  () => [promised.value, date.value, made.value],
)
const odds = computed(() => {
  if (made.value !== store.today)
    return 'It is noted with the odds that it had on the day on which it was given.'
  const chance = landing.answer.value?.landing.chance
  return chance === undefined ? '' : `As things are it is kept with ${percent(chance)}.`
})

async function give(): Promise<void> {
  const done = await store.mean({
    do: 'give-promise',
    ...promised.value,
    date: date.value,
    to: to.value.trim(),
    ...(made.value !== store.today && { made: made.value }),
    ...(note.value.trim() && { note: note.value.trim() }),
  })
  if (done) draft.saved()
  if (done?.keys[0]) emit('given', done.keys[0])
}
</script>

<template>
  <form class="promise" aria-label="Promise a date" @submit.prevent="give" @keydown.esc.stop="emit('leave')">
    <DraftLine :draft="draft" />
    <label
      >What
      <select v-model="of" class="in" @change="date = works.find((w) => w.of === of)?.date ?? date">
        <option v-for="w in works" :key="w.of" :value="w.of">{{ w.name }}</option>
      </select></label
    >
    <label>By <DateField v-model="date" :min="store.today" aria-label="Promised by" /></label>
    <label>To whom <input v-model="to" v-focus class="in" required maxlength="200" /></label>
    <label>Given on <DateField v-model="made" aria-label="Given on" /></label>
    <label class="wide"
      >Note <input v-model="note" class="in" maxlength="2000" placeholder="where, and what hangs on it"
    /></label>
    <p class="odds" role="status">{{ odds || landing.failure.value }}</p>
    <span class="buttons">
      <button type="button" class="plain-button" @click="emit('leave')">Leave it</button>
      <button class="plain-button" :disabled="!to.trim() || !date || !store.connected">
        Note the promise
      </button>
    </span>
  </form>
</template>

<style scoped>
.promise {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: end;
  margin: 6px 0 12px;
}

.promise label {
  display: grid;
  gap: 2px;
  font-size: 13px;
}

.wide {
  flex: 1 1 260px;
}

.answer .odds {
  flex: 1 1 260px;
}

.buttons {
  display: flex;
  gap: 8px;
}
</style>
