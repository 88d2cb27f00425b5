<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { nextTick, ref } from 'vue'
import type { ColourRule } from '@/api/types'
import FilterBuilder from './FilterBuilder.vue'
import { marks, nextRule, paints } from './paints'
import Swatch from './Swatch.vue'

/** Rules in order: each item has the colour of the first that holds of it. */
const visible = defineModel<boolean>('visible', { required: true })
const rules = defineModel<ColourRule[]>('rules', { required: true })
/** How many items each has coloured, and what is wrong, as the server answered. */
defineProps<{ counts?: number[]; names?: string[]; failure?: string }>()
const list = ref<HTMLElement>()

const change = (at: number, rule: Partial<ColourRule>) =>
  (rules.value = rules.value.map((r, i) => (i === at ? { ...r, ...rule } : r)))
const remove = (at: number) => (rules.value = rules.value.filter((_, i) => i !== at))
/** Adds a rule, and goes to its name. */
async function add(): Promise<void> {
  rules.value = [...rules.value, nextRule(rules.value)]
  await nextTick()
  list.value?.lastElementChild?.querySelector('input')?.focus()
}

/** Moves a rule; the button that was pressed keeps the focus, or its neighbour at the end. */
async function move(at: number, by: 1 | -1): Promise<void> {
  const next = [...rules.value]
  const [rule] = next.splice(at, 1)
  next.splice(at + by, 0, rule)
  rules.value = next
  await nextTick()
  const row = list.value?.children[at + by]
  const [up, down] = row?.querySelectorAll<HTMLButtonElement>('[data-move]') ?? []
  ;(by < 0 ? (up.disabled ? down : up) : down.disabled ? up : down)?.focus()
}
const value = (event: Event) => (event.target as HTMLInputElement).value
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Colour rules" :style="{ width: '800px' }">
    <p class="quiet">
      Each item has the colour of the first rule that holds of it. The rules are kept with the view.
    </p>
    <ol ref="list" class="rules">
      <li v-for="(rule, i) in rules" :key="i">
        <div class="row">
          <Swatch :colour="rule.colour" :mark="rule.mark" />
          <input
            v-typing
            class="in"
            maxlength="100"
            :aria-label="`Name of rule ${i + 1}`"
            :placeholder="names?.[i] || 'name in the legend'"
            :value="rule.name ?? ''"
            @change="change(i, { name: value($event).trim() || undefined })"
          />
          <select
            class="in"
            :aria-label="`Colour of rule ${i + 1}`"
            :value="rule.colour"
            @change="change(i, { colour: value($event) as ColourRule['colour'] })"
          >
            <option v-for="(p, key) in paints" :key="key" :value="key">{{ p.label }}</option>
          </select>
          <select
            class="in"
            :aria-label="`Mark of rule ${i + 1}`"
            :value="rule.mark ?? 'plain'"
            @change="change(i, { mark: value($event) as ColourRule['mark'] })"
          >
            <option v-for="(m, key) in marks" :key="key" :value="key">{{ m.label }}</option>
          </select>
          <span class="quiet n">{{ counts?.[i] ?? '' }}</span>
          <button
            class="round"
            data-move
            :aria-label="`Move rule ${i + 1} up`"
            :disabled="i === 0"
            @click="move(i, -1)"
          >
            <i class="pi pi-arrow-up" aria-hidden="true" />
          </button>
          <button
            class="round"
            data-move
            :aria-label="`Move rule ${i + 1} down`"
            :disabled="i === rules.length - 1"
            @click="move(i, 1)"
          >
            <i class="pi pi-arrow-down" aria-hidden="true" />
          </button>
          <button class="round" :aria-label="`Drop rule ${i + 1}`" @click="remove(i)">
            <i class="pi pi-times" aria-hidden="true" />
          </button>
        </div>
        <FilterBuilder
          :model-value="rule.filter"
          nothing="This rule holds of everything yet."
          @update:model-value="change(i, { filter: $event })"
        />
      </li>
    </ol>
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    <template #footer>
      <Button outlined label="Add a rule" icon="pi pi-plus" :disabled="rules.length >= 50" @click="add" />
      <span class="gap" />
      <Button label="Done" @click="visible = false" />
    </template>
  </Dialog>
</template>

<style scoped>
p {
  margin: 0 0 8px;
}

.rules {
  display: grid;
  gap: 14px;
  max-height: 420px;
  margin: 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}

.rules li {
  padding: 8px 10px;
  border: 1px solid var(--rule);
  border-radius: 6px;
}

.row {
  display: grid;
  grid-template-columns: 20px 1fr 110px 110px 40px 24px 24px 24px;
  gap: 6px;
  align-items: center;
  margin-bottom: 8px;
}

.n {
  text-align: right;
}

.gap {
  flex: 1;
}
</style>
