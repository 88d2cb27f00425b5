<script setup lang="ts">
import type { Safety } from '@/api/types'

/** How safe a date is, in a word; fell: it was much safer before. */
defineProps<{ safety: Safety; fell?: boolean }>()
</script>

<template>
  <span :class="['mark', safety.replace(' ', '-')]">{{ safety }}{{ fell ? ', fell' : '' }}</span>
</template>

<style scoped>
.mark {
  padding: 1px 8px;
  border-radius: 9px;
  font-size: 12px;
  white-space: nowrap;
}

.safe {
  background: var(--good-soft);
  color: var(--good);
}

.open {
  background: var(--tint);
}

.in-danger {
  background: var(--over-soft);
  color: var(--over);
}
</style>
