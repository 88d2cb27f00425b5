<script setup lang="ts">
import { computed, ref } from 'vue'
import type { View } from '@/api/types'
import SaveView from './SaveView.vue'
import { useViews } from './views'

/** Which view is shown, and keeping it where it differs from the saved one. */
const props = defineProps<{
  view: View
  /** What of a view counts here, for telling whether it differs. */
  plain: (view: View) => unknown
  /** What is kept with it, in words. */
  keeps: string
}>()
const emit = defineEmits<{ show: [view: View]; saved: [view: View] }>()
const views = useViews()
const saving = ref(false)

const kinds = computed(() => [
  { label: 'Ready-made', views: views.vocabulary?.readyMade ?? [] },
  { label: 'Shared', views: views.shared },
  { label: 'Private', views: views.mine },
])
const offset = (list: number) => kinds.value.slice(0, list).reduce((n, k) => n + k.views.length, 0)
const current = computed(() =>
  views.all.findIndex((v) => v.key === props.view.key && v.name === props.view.name),
)
const changed = computed(() => {
  const saved = views.all[current.value]
  return !saved || JSON.stringify(props.plain(saved)) !== JSON.stringify(props.plain(props.view))
})

/** A saved view by its place in the list: keys of different owners may be equal. */
function pick(event: Event): void {
  const next = views.all[Number((event.target as HTMLSelectElement).value)]
  if (next) emit('show', next)
}
function removed(): void {
  const first = views.vocabulary?.readyMade[0]
  if (first) emit('show', first)
}
</script>

<template>
  <select class="view" aria-label="View" :value="current" @change="pick">
    <option v-if="current < 0" :value="-1">{{ view.name }}</option>
    <template v-for="(kind, k) in kinds" :key="kind.label">
      <optgroup v-if="kind.views.length" :label="kind.label">
        <option v-for="(v, i) in kind.views" :key="v.key" :value="offset(k) + i">{{ v.name }}</option>
      </optgroup>
    </template>
  </select>
  <button v-if="changed" class="chip" title="Keep this view for yourself, or share it" @click="saving = true">
    Save view…
  </button>
  <SaveView
    v-model:visible="saving"
    :view="view"
    :keeps="keeps"
    @saved="emit('saved', $event)"
    @removed="removed"
  />
</template>

<style scoped>
.view {
  height: 26px;
  max-width: 190px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--panel);
  color: inherit;
  font: 650 14px var(--heading);
}
</style>
