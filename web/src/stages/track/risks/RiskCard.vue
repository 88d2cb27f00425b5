<script setup lang="ts">
import { useRisks, type RiskRow } from './risks'

/** A risk as a card, of the matrix or of the responses. */
defineProps<{ row: RiskRow; held: boolean }>()
const emit = defineEmits<{ key: [event: KeyboardEvent] }>()
const risks = useRisks()
</script>

<template>
  <li
    class="card"
    :class="{ over: row.stands.over, open: risks.cursor === row.risk.key }"
    :data-risk="row.risk.key"
    :tabindex="held ? 0 : -1"
    :aria-label="[row.risk.key, row.risk.title, ...row.stands.calls].join(', ')"
    @keydown="emit('key', $event)"
    @focus="risks.cursor = row.risk.key"
    @click="risks.cursor = row.risk.key"
  >
    <b>{{ row.risk.key }}</b> {{ row.risk.title }}
    <span v-if="row.stands.calls.length" class="calls small">{{ row.stands.calls.join(', ') }}</span>
  </li>
</template>

<style scoped>
.card {
  padding: 4px 8px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--panel);
  cursor: default;
  overflow-wrap: anywhere;
}

.card.open {
  border-color: var(--focus);
}

.card:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: 1px;
}

.over {
  color: var(--quiet);
}

.calls {
  display: block;
  color: var(--over);
}
</style>
