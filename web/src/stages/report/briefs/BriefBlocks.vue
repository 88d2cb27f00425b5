<script setup lang="ts">
import type { BriefBlock } from '@/api/types'
import { markdown } from '@/ui/markdown'
import ChartBody from '../cards/ChartBody.vue'
import BurnUp from './BurnUp.vue'

/** What the plan says in a section of a brief: paragraphs, lists, tables, charts and a burn-up. */
defineProps<{ blocks: BriefBlock[]; title: string }>()
</script>

<template>
  <template v-for="(b, i) in blocks" :key="i">
    <template v-if="b.chart">
      <p v-if="b.drawn?.sentence">{{ b.drawn.sentence }}</p>
      <ChartBody
        :chart="b.chart"
        :drawn="b.drawn"
        :height="b.chart.form === 'figure' ? 90 : 230"
        :title="title"
        quiet
      />
    </template>
    <!-- eslint-disable-next-line vue/no-v-html -- cleaned by markdown() -->
    <div v-else-if="b.markdown" class="review" v-html="markdown(b.markdown)" />
    <BurnUp v-else-if="b.burnUp" :burn-up="b.burnUp" :title="title" />
    <table v-else-if="b.head" class="table">
      <thead>
        <tr>
          <th v-for="(h, n) in b.head" :key="n" scope="col" :class="{ n: b.figures?.[n] }">{{ h }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, r) in b.rows" :key="r">
          <td v-for="(cell, n) in row" :key="n" :class="{ n: b.figures?.[n] }">{{ cell }}</td>
        </tr>
      </tbody>
    </table>
    <ul v-else-if="b.list">
      <li v-for="(text, n) in b.list" :key="n">{{ text }}</li>
    </ul>
    <p v-else>{{ b.text }}</p>
  </template>
</template>

<style scoped>
p,
ul {
  margin: 0 0 8px;
}

.table {
  margin-bottom: 8px;
}

.review :deep(h1),
.review :deep(h2),
.review :deep(h3) {
  margin: 10px 0 4px;
  font-size: 15px;
}
</style>
