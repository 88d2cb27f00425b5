<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import { useBacklog } from './backlog'

/** The heads of the columns: a click orders by one, its edge makes it wider. */
defineProps<{ template: string; width: number; odds: boolean }>()
const backlog = useBacklog()
const resizing = ref<{ field: string; x: number; width: number }>()

/** From one order to the next: up, down, by rank again. */
function order(field: string): void {
  const { sort, descending } = backlog.view
  if (field === 'rank') backlog.view = { ...backlog.view, sort: undefined, descending: undefined }
  else if (sort !== field) backlog.view = { ...backlog.view, sort: field, descending: undefined }
  else if (!descending) backlog.view = { ...backlog.view, descending: true }
  else backlog.view = { ...backlog.view, sort: undefined, descending: undefined }
}

const sorted = (field: string) =>
  backlog.view.sort === field ? (backlog.view.descending ? 'descending' : 'ascending') : undefined

function grip(column: number, event: PointerEvent): void {
  resizing.value = {
    field: backlog.columns[column].field,
    x: event.clientX,
    width: backlog.columns[column].width,
  }
}
useEventListener(window, 'pointermove', (event: PointerEvent) => {
  const r = resizing.value
  if (!r) return
  event.preventDefault()
  const width = Math.max(40, Math.min(800, r.width + event.clientX - r.x))
  backlog.view = {
    ...backlog.view,
    columns: backlog.chosenColumns.map((c) => (c.field === r.field ? { ...c, width } : c)),
  }
})
useEventListener(window, 'pointerup', () => (resizing.value = undefined))
</script>

<template>
  <div
    role="row"
    aria-rowindex="1"
    class="heads"
    :style="{ gridTemplateColumns: template, minWidth: width + 'px' }"
  >
    <div role="columnheader">
      <input
        type="checkbox"
        tabindex="-1"
        aria-label="Pick all"
        title="Pick all (Ctrl + A)"
        :checked="backlog.shown.length > 0 && backlog.picks.length === backlog.shown.length"
        @change="backlog.picks.length ? backlog.unpick() : backlog.pickAll()"
      />
    </div>
    <div v-if="odds" role="columnheader" class="n" title="Chance of being done by the date">In time</div>
    <div
      v-for="(c, i) in backlog.columns"
      :key="c.field"
      role="columnheader"
      :aria-sort="sorted(c.field) ?? 'none'"
      :class="{ n: c.field === 'size' || c.field === 'rank' }"
    >
      <button
        tabindex="-1"
        :title="`Order by ${backlog.fields.get(c.field)?.title.toLowerCase()}`"
        @click="order(c.field)"
      >
        {{ backlog.fields.get(c.field)?.title }}
        <i
          v-if="sorted(c.field)"
          :class="['pi', backlog.view.descending ? 'pi-arrow-down' : 'pi-arrow-up']"
          aria-hidden="true"
        />
      </button>
      <span class="grip" aria-hidden="true" @pointerdown.prevent="grip(i, $event)" />
    </div>
  </div>
</template>

<style scoped>
.heads {
  position: sticky;
  top: 0;
  z-index: 3;
  display: grid;
  height: 28px;
  background: var(--paper);
  border-bottom: 1px solid var(--edge);
}

.heads > div {
  position: relative;
  overflow: hidden;
  padding: 5px 6px;
  color: var(--quiet);
  font-size: 12px;
  white-space: nowrap;
}

.n {
  text-align: right;
}

.heads input {
  width: 14px;
  height: 14px;
}

button {
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  cursor: pointer;
}

.pi {
  font-size: 9px;
}

.grip {
  position: absolute;
  top: 4px;
  right: 0;
  bottom: 4px;
  width: 7px;
  border-right: 2px solid var(--rule);
  cursor: col-resize;
  touch-action: none;
}
</style>
