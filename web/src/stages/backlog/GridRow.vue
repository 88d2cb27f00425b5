<script setup lang="ts">
import { computed } from 'vue'
import type { Column, Item, Rollup } from '@/api/types'
import { percent } from '@/ui/format'
import { sameAs } from '@/ui/sameAs'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import CellEditor from './CellEditor.vue'
import { inheritsRelease, mayEnter, textOf } from './cells'
import { rolledUp, rollupText } from '@/line/rollup'

/**
 * One item of the grid. All that changes while one scrolls and selects comes as plain
 * props, so that only the rows it is about are drawn anew.
 */
const props = defineProps<{
  item: Item
  depth: number
  row: number
  columns: Column[]
  template: string
  rank?: number
  odds: boolean
  chance?: number
  chosen: boolean
  picked: boolean
  /** The column that the cursor is on; −1: another row. */
  cursor: number
  /** The first and last column that are selected; −1: none. */
  left: number
  right: number
  /** The column that is edited; −1: none. */
  editing: number
  typed?: string
  over: string
  rollup?: Rollup
  closed: boolean
}>()
const emit = defineEmits<{ done: [text: string | undefined, then: 'stay' | 'down' | 'right' | 'left'] }>()
const store = useProgram()
const backlog = useBacklog()

interface Cell {
  field: string
  text: string
  title: string
  inherited: boolean
  fixed: boolean
}
/** After an edit all rows are worked out anew; those that say the same are not drawn anew. */
const cells = computed<Cell[]>((before) => {
  const now = props.columns.map((c): Cell => {
    const roll = props.rollup
    const text =
      c.field === 'rank'
        ? String(props.rank ?? '')
        : ((roll && rolledUp(c.field, roll, store)) ?? textOf(c.field, props.item, store))
    const inherited = c.field === 'release' && inheritsRelease(props.item, store)
    const title =
      roll && c.field === 'title'
        ? `${text}: ${rollupText(roll, store)}`
        : inherited
          ? `${text}, as what it is part of`
          : text
    return {
      field: c.field,
      text,
      title,
      inherited,
      fixed: !mayEnter(c.field, props.item, store, backlog.fields),
    }
  })
  return sameAs(before, now)
})
const ready = computed(
  () => !!store.itemFacts.get(props.item.key)?.leaf && props.item.state !== 'done' && !props.item.keptOut,
)
</script>

<template>
  <div
    role="row"
    :aria-rowindex="row"
    :aria-selected="chosen"
    :data-item="item.key"
    :class="['row', over, { chosen, out: item.keptOut, done: item.state === 'done' }]"
    :style="{ gridTemplateColumns: template }"
  >
    <div role="gridcell" class="pick">
      <input type="checkbox" tabindex="-1" :checked="picked" :aria-label="`Pick ${item.key}`" />
    </div>
    <div v-if="odds" role="gridcell" :class="['n', 'odds', { late: (chance ?? 1) < 0.5 }]">
      {{ chance === undefined ? '' : percent(chance) }}
    </div>
    <div
      v-for="(c, i) in cells"
      :id="`cell-${item.key}-${i}`"
      :key="c.field"
      role="gridcell"
      :data-column="i"
      :class="[
        'cell',
        c.field,
        {
          n: c.field === 'size' || c.field === 'rank',
          inherited: c.inherited,
          on: cursor === i,
          marked: i >= left && i <= right,
        },
      ]"
      :aria-selected="i >= left && i <= right"
      :aria-readonly="c.fixed"
      :title="c.title"
    >
      <CellEditor
        v-if="editing === i"
        :item="item"
        :field="c.field"
        :typed="typed"
        @done="(text, then) => emit('done', text, then)"
      />
      <span v-else-if="c.field === 'title'" class="indent" :style="{ paddingLeft: depth * 16 + 'px' }">
        <button
          v-if="rollup"
          class="toggle"
          tabindex="-1"
          :aria-label="closed ? 'Open' : 'Close'"
          :aria-expanded="!closed"
          @click.stop="backlog.toggle(item.key)"
        >
          <i :class="['pi', closed ? 'pi-chevron-right' : 'pi-chevron-down']" aria-hidden="true" />
        </button>
        <b v-if="rollup">{{ c.text }}</b>
        <span v-else class="words">{{ c.text }}</span>
      </span>
      <span v-else-if="c.field === 'readiness' && c.text" class="lacks">{{ c.text }}</span>
      <span v-else-if="c.field === 'readiness' && ready" class="quiet">ready</span>
      <template v-else>{{ c.text }}</template>
    </div>
  </div>
</template>

<style scoped src="./grid.css"></style>
