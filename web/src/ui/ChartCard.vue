<script setup lang="ts">
import { ref, useTemplateRef } from 'vue'
import { wordsOf } from '@/api/client'
import type { Chart } from './chart'
import { useChartLook } from './chartLook'
import { saveShown } from './saveFile'
import TimePicture from './TimePicture.vue'

/**
 * A picture over time that can be read row by row, by the pointer or the arrow keys; as a table; and as a
 * file.
 */
const props = defineProps<{
  title: string
  note?: string
  /** What it shows, for who cannot see it. */
  says: string
  chart: Chart
  /** What files are called, without their ending. */
  file: string
  height?: number
}>()

const emit = defineEmits<{ pick: [at: number] }>()

const look = useChartLook()
const drawing = useTemplateRef<HTMLElement>('drawing')
const asTable = ref(false)
const failure = ref('')
async function save(as: 'PNG' | 'SVG' | 'CSV'): Promise<void> {
  failure.value = ''
  try {
    const { columns, rows } = props.chart
    const table = { columns, rows: rows.map((r) => r.cells) }
    await saveShown(
      as,
      props.file,
      { svg: drawing.value?.querySelector('svg'), table },
      look().token('--panel'),
    )
  } catch (error) {
    failure.value = wordsOf(error)
  }
}
</script>

<template>
  <section class="card" :aria-label="title">
    <header>
      <h3>{{ title }}</h3>
      <span class="gap" />
      <slot name="tools" />
      <button class="chip" :aria-pressed="asTable" @click="asTable = !asTable">Table</button>
    </header>
    <p class="note quiet small">
      {{ note }}
      <span class="gap" />
      <button
        v-for="as in ['PNG', 'SVG', 'CSV'] as const"
        :key="as"
        class="link small"
        :aria-label="`${title} as ${as}`"
        :disabled="asTable && as !== 'CSV'"
        @click="save(as)"
      >
        {{ as }}
      </button>
    </p>
    <p v-if="failure" role="alert" class="failure">{{ failure }}</p>
    <div v-show="!asTable" ref="drawing">
      <TimePicture :says="says" :chart="chart" :height="height ?? 230" @pick="emit('pick', $event)" />
    </div>
    <div v-if="asTable" class="behind" tabindex="0" role="region" :aria-label="`${title} as a table`">
      <table class="table">
        <thead>
          <tr>
            <th v-for="(c, i) in chart.columns" :key="c" :class="{ n: i }">{{ c }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in chart.rows" :key="r.at">
            <td v-for="(c, i) in r.cells" :key="i" :class="{ n: i }">{{ c }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.card {
  min-width: 0;
  padding: 10px 14px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--panel);
}

header {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
}

header :deep(.chip) {
  flex: none;
  white-space: nowrap;
}

header :deep(select.chip) {
  max-width: 160px;
}

.note {
  display: flex;
  gap: 10px;
  margin: 0;
}

h3 {
  margin: 0;
  font-size: 15px;
  white-space: nowrap;
}

.gap {
  flex: 1;
}

.behind:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: -1px;
}

.behind {
  max-height: 260px;
  overflow-y: auto;
}
</style>
