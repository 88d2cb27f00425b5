<script setup lang="ts">
import { computed } from 'vue'
import type { ChartTable, ChartThing } from '@/api/types'
import { stateTitles } from '@/line/course'
import { useProgram } from '@/line/program'
import { worded } from './drawing'

/** Something that a chart counts, with the way to it. */
const props = defineProps<{
  thing: ChartThing
  of: Pick<ChartTable, 'unit' | 'in'>
  /** What it names need not be at hand: that says nothing of whether it is still there. */
  quiet?: boolean
}>()
const store = useProgram()
const params = computed(() => ({ id: store.id }))
const to = computed(() => {
  const { kind, key, in: of } = props.thing
  if (kind === 'item')
    return store.items.has(key ?? '')
      ? { name: 'backlog', params: params.value, query: { item: key } }
      : undefined
  if (kind === 'need') return { name: 'backlog', params: params.value, query: { item: of } }
  if (kind === 'risk') return { name: 'track', params: params.value, query: { as: 'risks' } }
  if (kind === 'iteration') return { name: 'track', params: params.value, query: { teams: of } }
  return { name: 'track', params: params.value, query: { as: 'hours' } }
})
const value = computed(() => (props.thing.value === undefined ? '' : worded(props.thing.value, props.of)))
</script>

<template>
  <li>
    <b v-if="thing.kind === 'item'" class="key">{{ thing.key }}</b>
    <RouterLink v-if="to" :to="to" class="title" :title="thing.title">{{ thing.title }}</RouterLink>
    <span v-else-if="quiet" class="title">{{ thing.title }}</span>
    <span v-else class="title quiet">{{ thing.title }} (removed since)</span>
    <slot>
      <span v-if="thing.state" class="quiet small">{{ stateTitles.get(thing.state) }}</span>
    </slot>
    <span v-if="value" class="n">{{ value }}</span>
  </li>
</template>

<style scoped>
li {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}

.key {
  flex: none;
  min-width: 52px;
}

.title {
  flex: 1;
  overflow: hidden;
  color: inherit;
  text-overflow: ellipsis;
  text-underline-offset: 2px;
  white-space: nowrap;
}

.small,
.n {
  flex: none;
}
</style>
