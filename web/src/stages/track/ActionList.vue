<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Action, IterationReview } from '@/api/types'
import { useProgram } from '@/line/program'

/** What a team agreed to do as it looked back: of this iteration, and of earlier ones what is not done. */
const props = defineProps<{ team: string; iteration: string; earlier: IterationReview['earlier'] }>()
const store = useProgram()

const find = (key: string) => store.teams.get(props.team)?.iterations?.find((it) => it.key === key)
const name = (key: string) => find(key)?.name || key
const actions = computed(() => find(props.iteration)?.actions ?? [])
const may = (iteration: string) =>
  store.may({ op: 'set', kind: 'iteration', in: props.team, key: iteration, field: 'actions' })
const keep = (iteration: string, value: Action[]) =>
  store.apply(`Actions of ${name(iteration)}`, [
    { op: 'set', kind: 'iteration', in: props.team, key: iteration, field: 'actions', value },
  ])
/** Changes one action of an iteration. */
const change = (iteration: string, at: number, how: Partial<Action>) =>
  keep(
    iteration,
    (find(iteration)?.actions ?? []).map((a, i) => (i === at ? { ...a, ...how } : a)),
  )
const people = computed(
  () =>
    store.teams.get(props.team)?.members?.map((m) => store.program.people?.find((p) => p.key === m.person)) ??
    [],
)
const owner = (key?: string) => store.program.people?.find((p) => p.key === key)?.name ?? 'nobody'

const text = ref('')
async function add(): Promise<void> {
  const said = text.value.trim()
  text.value = ''
  if (said && !(await keep(props.iteration, [...actions.value, { text: said }]))) text.value = said
}
</script>

<template>
  <ul>
    <li v-for="(a, i) in actions" :key="i">
      <label class="check" :class="{ done: a.done }">
        <input
          type="checkbox"
          :checked="!!a.done"
          :disabled="!may(iteration)"
          @change="change(iteration, i, { done: !a.done })"
        />
        <span>{{ a.text }}</span>
      </label>
      <select
        class="in"
        :value="a.owner ?? ''"
        :disabled="!may(iteration)"
        :aria-label="`Who sees to ${a.text}`"
        @change="change(iteration, i, { owner: ($event.target as HTMLSelectElement).value || undefined })"
      >
        <option value="">nobody</option>
        <option v-for="p in people" :key="p?.key" :value="p?.key">{{ p?.name }}</option>
        <option v-if="a.owner && !people.some((p) => p?.key === a.owner)" :value="a.owner">
          {{ owner(a.owner) }}
        </option>
      </select>
      <button
        v-if="may(iteration)"
        class="round"
        :aria-label="`Drop ${a.text}`"
        @click="
          keep(
            iteration,
            actions.filter((_, n) => n !== i),
          )
        "
      >
        <i class="pi pi-times" aria-hidden="true" />
      </button>
    </li>
    <li v-for="a in earlier" :key="`${a.iteration}/${a.at}`">
      <label class="check">
        <input
          type="checkbox"
          :disabled="!may(a.iteration)"
          @change="change(a.iteration, a.at, { done: true })"
        />
        <span>{{ a.text }}</span>
      </label>
      <span class="quiet small">{{ a.owner ? `${owner(a.owner)}, ` : '' }}since {{ name(a.iteration) }}</span>
    </li>
  </ul>
  <p v-if="!actions.length && !earlier.length" class="quiet">Nothing was agreed on.</p>
  <form v-if="may(iteration)" @submit.prevent="add">
    <input
      v-model="text"
      class="in"
      aria-label="New action"
      placeholder="New action: what will be done"
      maxlength="300"
    />
  </form>
</template>

<style scoped>
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 2px 0;
}

.check {
  flex: 1;
}

.done span {
  color: var(--quiet);
  text-decoration: line-through;
}

select {
  width: 150px;
  height: 26px;
}

p {
  margin: 0;
}

form .in {
  width: 100%;
  margin-top: 4px;
}

@media print {
  form,
  .round {
    display: none;
  }
}
</style>
