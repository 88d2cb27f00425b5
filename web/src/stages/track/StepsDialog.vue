<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { stateTitles } from '@/line/course'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import type { ItemState } from '@/api/types'

/** Divides states into steps of the program's own names, with how many items each is to hold. */
const emit = defineEmits<{ close: [] }>()
const store = useProgram()
const proposals = useProposals()

interface Line {
  id: number
  name: string
  state: ItemState
  most: number | ''
  was?: string
}
let made = 0
const lines = ref<Line[]>(
  (store.program.settings.steps ?? []).map((s) => ({
    id: made++,
    name: s.name,
    state: s.state as ItemState,
    most: s.most ?? '',
    was: s.name,
  })),
)
const states = [...stateTitles].map(([state, title]) => ({ state: state as ItemState, title }))
const of = (state: ItemState) => lines.value.filter((l) => l.state === state)

const form = useTemplateRef<HTMLElement>('form')
async function add(state: ItemState): Promise<void> {
  const id = made++
  lines.value.push({ id, name: '', state, most: '' })
  await nextTick()
  form.value?.querySelector<HTMLInputElement>(`[data-line="${id}"]`)?.focus()
}
const remove = (line: Line) => (lines.value = lines.value.filter((l) => l !== line))
/** Takes a step before the one above it of the same state. */
function up(line: Line): void {
  const above = of(line.state)[of(line.state).indexOf(line) - 1]
  const rest = lines.value.filter((l) => l !== line)
  rest.splice(rest.indexOf(above), 0, line)
  lines.value = rest
}

const wrong = computed(() => {
  const names = lines.value.map((l) => l.name.trim().toLowerCase())
  if (names.some((n) => !n)) return 'Each step needs a name.'
  const twice = lines.value.find((_, i) => names.indexOf(names[i]) < i)
  return twice ? `There are two steps called ${twice.name.trim()}.` : ''
})
async function keep(): Promise<void> {
  const steps = lines.value.map(({ name, state, most, was }) => ({
    name: name.trim(),
    state,
    most: most || undefined,
    was,
  }))
  if (await proposals.make({ do: 'set-steps', steps })) emit('close')
}
</script>

<template>
  <Dialog visible modal header="Steps" :style="{ width: '560px' }" @update:visible="emit('close')">
    <form ref="form" class="form" @submit.prevent="keep">
      <p class="quiet">
        Items run through these from left to right. A state may be divided into steps of your own; how many
        items a team is to have in one at once may be said. Forecasts go by the states.
      </p>
      <fieldset v-for="s in states" :key="s.state">
        <legend>{{ s.title }}</legend>
        <div v-for="(line, i) in of(s.state)" :key="line.id" class="line">
          <input
            v-model="line.name"
            :data-line="line.id"
            class="in name"
            maxlength="40"
            :aria-label="`Step ${i + 1} of ${s.title}`"
          />
          <label v-if="s.state !== 'done'" class="check">
            at most
            <input
              v-model.number="line.most"
              class="in number"
              type="number"
              min="1"
              max="999"
              :aria-label="`At most in ${line.name || 'the step'}`"
            />
          </label>
          <Button
            v-if="i"
            type="button"
            size="small"
            text
            icon="pi pi-arrow-up"
            :aria-label="`${line.name || 'The step'} before the one above`"
            @click="up(line)"
          />
          <Button
            type="button"
            size="small"
            text
            icon="pi pi-times"
            class="gone"
            :aria-label="`Remove ${line.name || 'the step'}`"
            @click="remove(line)"
          />
        </div>
        <button type="button" class="link small" @click="add(s.state)">
          {{ of(s.state).length ? 'Another step' : 'Divide it into steps' }}
        </button>
      </fieldset>
      <p v-if="wrong" role="alert" class="failure">{{ wrong }}</p>
      <div class="buttons">
        <Button type="button" outlined label="Cancel" @click="emit('close')" />
        <Button type="submit" label="Keep" :disabled="!!wrong || proposals.working || !store.connected" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
p {
  margin: 0;
}

fieldset {
  display: grid;
  gap: 6px;
  margin: 0;
  padding: 4px 12px 10px;
  border: 1px solid var(--rule);
  border-radius: 8px;
}

legend {
  font-weight: 600;
}

.line {
  display: grid;
  grid-template-columns: 1fr auto 34px 34px;
  gap: 8px;
  align-items: center;
}

.gone {
  grid-column: 4;
}

.link {
  justify-self: start;
}
</style>
