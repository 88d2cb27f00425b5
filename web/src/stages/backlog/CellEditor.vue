<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import type { Item } from '@/api/types'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import { choicesOf, enteredAs, entryOf } from './cells'

/** One cell while it is edited. What it says goes to whoever opened it. */
const props = defineProps<{ item: Item; field: string; typed?: string }>()
const emit = defineEmits<{ done: [text: string | undefined, then: 'stay' | 'down' | 'right' | 'left'] }>()
const store = useProgram()
const backlog = useBacklog()
const field = computed(() => enteredAs(props.field))
const choices = computed(() => choicesOf(field.value, store.program, props.item))
const before = entryOf(field.value, props.item, store)
const text = ref(before)
const input = ref<HTMLInputElement | HTMLSelectElement>()
const isDay = computed(() => backlog.fields.get(field.value)?.sort === 'day')

onMounted(() => {
  const typed = props.typed
  if (typed && choices.value) {
    const begins = choices.value.find((c) => c.label.toLowerCase().startsWith(typed.toLowerCase()))
    if (begins) text.value = begins.value
  } else if (typed !== undefined && !isDay.value) text.value = typed
  input.value?.focus()
  if (input.value instanceof HTMLInputElement && typed === undefined && !isDay.value) input.value.select()
})

let over = false
function finish(then: 'stay' | 'down' | 'right' | 'left', keep = true): void {
  if (over) return
  over = true
  emit('done', keep && text.value !== before ? text.value : undefined, then)
}

function key(event: KeyboardEvent): void {
  event.stopPropagation()
  const way = { Enter: 'down', Tab: event.shiftKey ? 'left' : 'right', Escape: 'stay' }[event.key] as
    'down' | 'right' | 'left' | 'stay' | undefined
  if (!way) return
  event.preventDefault()
  finish(way, event.key !== 'Escape')
}
</script>

<template>
  <select
    v-if="choices"
    ref="input"
    v-model="text"
    :aria-label="backlog.fields.get(field)?.title"
    @keydown="key"
    @blur="finish('stay')"
    @pointerdown.stop
  >
    <option v-for="c in choices" :key="c.value" :value="c.value">{{ c.label }}</option>
  </select>
  <input
    v-else
    ref="input"
    v-model="text"
    :type="isDay ? 'date' : 'text'"
    :aria-label="backlog.fields.get(field)?.title"
    maxlength="5000"
    spellcheck="false"
    @keydown="key"
    @blur="finish('stay')"
    @pointerdown.stop
  />
</template>

<style scoped>
input,
select {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  padding: 0 5px;
  border: 2px solid var(--focus);
  border-radius: 0;
  background: var(--panel);
  color: var(--ink);
  font: inherit;
  outline: none;
}
</style>
