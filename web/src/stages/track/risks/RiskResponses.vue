<script setup lang="ts">
import { computed } from 'vue'
import RiskCard from './RiskCard.vue'
import { responses, useRisks, type RiskRow } from './risks'

/** The risks that may happen by what is done about them. */
defineProps<{ held: string }>()
const emit = defineEmits<{ key: [row: RiskRow, event: KeyboardEvent] }>()
const risks = useRisks()
const columns = computed(() =>
  responses.map(([key, title]) => ({
    key,
    title,
    rows: risks.rows.filter((r) => !r.stands.over && (r.risk.response ?? '') === key),
  })),
)
async function drop(response: string, event: DragEvent): Promise<void> {
  const key = event.dataTransfer?.getData('text/risk')
  if (key && risks.may(key, 'response')) await risks.set(key, 'response', response, 'Response')
}
const lift = (row: RiskRow, event: DragEvent) => event.dataTransfer?.setData('text/risk', row.risk.key)
</script>

<template>
  <div class="board">
    <section
      v-for="c in columns"
      :key="c.key"
      :aria-label="c.title"
      @dragover.prevent
      @drop.prevent="drop(c.key, $event)"
    >
      <h3>
        {{ c.title }} <span class="quiet small">{{ c.rows.length || '' }}</span>
      </h3>
      <ul v-if="c.rows.length">
        <RiskCard
          v-for="r in c.rows"
          :key="r.risk.key"
          :row="r"
          :held="held === r.risk.key"
          :draggable="risks.may(r.risk.key, 'response')"
          @dragstart="lift(r, $event)"
          @key="emit('key', r, $event)"
        />
      </ul>
    </section>
  </div>
</template>

<style scoped>
.board {
  display: grid;
  grid-auto-columns: minmax(130px, 1fr);
  grid-auto-flow: column;
  gap: 8px;
  min-height: 300px;
}

section {
  padding: 6px;
  border-radius: 6px;
  background: var(--tint);
}

h3 {
  margin: 0 0 6px;
  font-size: 14px;
}

ul {
  display: grid;
  gap: 6px;
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
