<script setup lang="ts">
import AutoComplete from 'primevue/autocomplete'
import { ref } from 'vue'
import type { Item } from '@/api/types'
import { useProgram } from './program'

/** A field in which an item is chosen by its key or words of its title. */
const props = defineProps<{ label: string; except?: string[]; disabled?: boolean }>()
const emit = defineEmits<{ pick: [item: Item] }>()
const store = useProgram()
const query = ref<string | Item>('')
const found = ref<Item[]>([])

/** The items that what was typed means, at most 30. */
function meant(typed: string): Item[] {
  const words = typed.toLowerCase().split(/\s+/)
  const taken = new Set(props.except)
  return (store.program.items ?? [])
    .filter((x) => !taken.has(x.key) && words.every((w) => `${x.key} ${x.title}`.toLowerCase().includes(w)))
    .slice(0, 30)
}

/** What the list shows the items of: it comes a moment after what is typed, and may come when the field is empty again. */
let listed = ''

function search(event: { query: string }): void {
  if (event.query !== query.value) return
  listed = event.query
  found.value = meant(listed)
}

/** Enter right after the last letter takes the first that is meant, whatever the list still shows. */
function enter(): void {
  const typed = query.value
  if (typeof typed !== 'string' || !typed.trim() || typed === listed) return
  const first = meant(typed)[0]
  if (first) pick({ value: first })
}

/**
 * Pressing the button on the list leaves the field its focus: the list is placed anew when the field loses it, and where
 * what is above has grown meanwhile the button would be let go beside it.
 */
const stay = (event: MouseEvent) => event.preventDefault()

function pick(event: { value: Item }): void {
  query.value = ''
  listed = ''
  emit('pick', event.value)
}
</script>

<template>
  <AutoComplete
    v-model="query"
    :suggestions="found"
    :option-label="(x: Item) => (typeof x === 'string' ? x : `${x.key} ${x.title}`)"
    :placeholder="label"
    :aria-label="label"
    :delay="80"
    :disabled="disabled"
    auto-option-focus
    size="small"
    class="picker"
    :pt="{ overlay: { onMousedown: stay } }"
    @keydown.enter.capture="enter"
    @complete="search"
    @option-select="pick"
  />
</template>

<style scoped>
.picker {
  width: 100%;
}

.picker :deep(input) {
  width: 100%;
  padding: 2px 8px;
  font-size: 12.5px;
}
</style>
