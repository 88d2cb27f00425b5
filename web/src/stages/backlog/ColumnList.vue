<script setup lang="ts">
import { computed } from 'vue'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import { useViews } from '@/views/views'

/** Which columns are shown, and in which order. */
const backlog = useBacklog()
const views = useViews()
const store = useProgram()
/** When something was changed is for filters alone; priorities are for programs that have some. */
const offered = computed(() =>
  (views.vocabulary?.fields ?? []).filter(
    (f) => f.name !== 'changed' && (f.name !== 'priority' || store.program.settings.priorities?.length),
  ),
)
const shown = computed(() => backlog.chosenColumns.map((c) => c.field))
const hidden = computed(() => offered.value.filter((f) => !shown.value.includes(f.name)))

function set(columns: typeof backlog.chosenColumns): void {
  backlog.view = { ...backlog.view, columns }
}
function remove(field: string): void {
  if (backlog.chosenColumns.length > 1) set(backlog.chosenColumns.filter((c) => c.field !== field))
}
function move(at: number, by: number): void {
  const next = [...backlog.chosenColumns]
  const [column] = next.splice(at, 1)
  next.splice(at + by, 0, column)
  set(next)
}
const title = (field: string) => backlog.fields.get(field)?.title ?? field
</script>

<template>
  <div class="columns">
    <h3>Columns</h3>
    <div v-for="(c, i) in backlog.chosenColumns" :key="c.field" class="one">
      <label class="check"
        ><input type="checkbox" checked @change="remove(c.field)" /><span>{{ title(c.field) }}</span></label
      >
      <button
        class="round"
        :aria-label="`${title(c.field)} earlier`"
        :disabled="i === 0"
        @click="move(i, -1)"
      >
        <i class="pi pi-arrow-up" aria-hidden="true" />
      </button>
      <button
        class="round"
        :aria-label="`${title(c.field)} later`"
        :disabled="i === backlog.chosenColumns.length - 1"
        @click="move(i, 1)"
      >
        <i class="pi pi-arrow-down" aria-hidden="true" />
      </button>
    </div>
    <h3>Not shown</h3>
    <label v-for="f in hidden" :key="f.name" class="check"
      ><input
        type="checkbox"
        :checked="false"
        @change="set([...backlog.chosenColumns, { field: f.name }])"
      /><span>{{ f.title }}</span></label
    >
    <button class="link" @click="set([])">As usual</button>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  width: 240px;
  max-height: 60vh;
  overflow-y: auto;
}

h3 {
  font-size: 13px;
  margin: 4px 0;
}

.one {
  display: flex;
  gap: 4px;
  align-items: center;
}

.one .check {
  flex: 1;
}

.check {
  min-height: 25px;
}

.round:disabled {
  opacity: 0.4;
}
</style>
