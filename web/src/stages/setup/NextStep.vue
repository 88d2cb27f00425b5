<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed } from 'vue'
import { useProgram } from '@/line/program'
import { nextStep } from './nextStep'

/** One line that says what a newcomer would do next; it goes away for good when dismissed. */
const store = useProgram()
const dismissed = useStorage<number[]>('jantrel-steps-dismissed', [])
const step = computed(() =>
  store.may({ op: 'add', kind: 'team' }) && !dismissed.value.includes(store.id)
    ? nextStep(store.program)
    : undefined,
)
</script>

<template>
  <p v-if="step" class="step" role="status">
    <i class="pi pi-arrow-right" aria-hidden="true" />
    <span>{{ step.text }}</span>
    <RouterLink v-if="step.to !== $route.name" :to="{ name: step.to, params: { id: store.id } }">
      {{ step.label }}
    </RouterLink>
    <span class="gap" />
    <button
      class="round"
      title="Don’t show next steps for this program again"
      aria-label="Don’t show next steps for this program again"
      @click="dismissed = [...dismissed, store.id]"
    >
      <i class="pi pi-times" aria-hidden="true" />
    </button>
  </p>
</template>

<style scoped>
.step {
  display: flex;
  flex: none;
  gap: 8px;
  align-items: center;
  margin: 0;
  padding: 6px 16px;
  background: var(--tint);
  border-bottom: 1px solid var(--rule);
}

.step a {
  color: inherit;
  font-weight: 650;
}

.gap {
  flex: 1;
}
</style>
