<script setup lang="ts">
import { computed, ref } from 'vue'
import type { AttentionEntry } from '@/api/types'
import { useProgram } from '@/line/program'
import DateField from '@/ui/DateField.vue'
import { shortDate, toDate, toDay } from '@/ui/dates'
import { useAttention, type Deal } from './attention'

/** What is said about something that needs somebody, in its row; Escape leaves it. */
const props = defineProps<{ entry: AttentionEntry; what: Deal }>()
const emit = defineEmits<{ leave: [] }>()
const store = useProgram()
const attention = useAttention()
const item = computed(() => store.items.get(props.entry.item ?? ''))
const team = computed(() => store.teams.get(props.entry.team ?? ''))
/** Those of the team first, then the others. */
const people = computed(() => {
  const own = new Set(team.value?.members?.map((m) => m.person))
  const all = (store.program.people ?? []).filter((p) => !p.openSeat)
  return [...all.filter((p) => own.has(p.key)), ...all.filter((p) => !own.has(p.key))]
})
const iterations = computed(() =>
  (team.value?.iterations ?? []).filter(
    (it) => it.state !== 'closed' && it.end >= store.today && it.key !== item.value?.iteration,
  ),
)
const value = (event: Event) => (event.target as HTMLInputElement).value
const tell = (said: string | number) => attention.tell(props.entry, props.what, said)
const size = ref('')
const day = ref(toDate(store.todayDay + 14))
const days = ref(7)
const why = ref('')
const next = (date: string) => shortDate(date, toDay(store.today))
</script>

<template>
  <form
    v-if="what === 'off'"
    class="deal"
    @submit.prevent="attention.putOff(entry, days, why.trim())"
    @keydown.esc.stop="emit('leave')"
  >
    <label class="small"
      >Put off for
      <input
        v-model.number="days"
        class="in number"
        type="number"
        min="1"
        max="365"
        required
        aria-label="Days"
      />
      days</label
    >
    <input v-model="why" v-focus class="in" maxlength="300" aria-label="Why" placeholder="Why" />
    <button class="plain-button">Put off</button>
  </form>
  <form
    v-else-if="what === 'size'"
    class="deal"
    @submit.prevent="size && tell(Number(size))"
    @keydown.esc.stop="emit('leave')"
  >
    <input
      v-model="size"
      v-focus
      class="in number"
      type="number"
      min="0"
      step="any"
      :aria-label="`Size of ${entry.item}`"
    />
    <span class="small">{{ team?.unit }}</span>
    <button class="plain-button">Keep</button>
  </form>
  <form
    v-else-if="what === 'due' || what === 'again'"
    class="deal"
    @submit.prevent="day && tell(day)"
    @keydown.esc.stop="emit('leave')"
  >
    <DateField
      v-model="day"
      v-focus
      :min="store.today"
      :aria-label="what === 'due' ? `${entry.item} is due` : `Look at ${entry.risk} again on`"
    />
    <button class="plain-button">Keep</button>
  </form>
  <form v-else class="deal" @submit.prevent @keydown.esc.stop="emit('leave')">
    <select
      v-focus
      class="in"
      value=""
      :aria-label="what === 'assign' ? `Assign ${entry.item} to` : `Move ${entry.item} to`"
      @change="value($event) && tell(value($event) === '-' ? '' : value($event))"
    >
      <option value="">{{ what === 'assign' ? 'to whom…' : 'to which iteration…' }}</option>
      <template v-if="what === 'assign'">
        <option v-for="p in people" :key="p.key" :value="p.key">{{ p.name }}</option>
      </template>
      <template v-else>
        <option v-for="it in iterations" :key="it.key" :value="it.key">
          {{ it.name || it.key }}, {{ next(it.start) }} – {{ next(it.end) }}
        </option>
        <option value="-">nowhere yet</option>
      </template>
    </select>
    <button type="button" class="plain-button" @click="emit('leave')">Leave it</button>
  </form>
</template>

<style scoped>
.deal {
  display: flex;
  gap: 8px;
  align-items: center;
}

.deal .in {
  width: auto;
  max-width: 260px;
}

.deal .number {
  width: 70px;
}
</style>
