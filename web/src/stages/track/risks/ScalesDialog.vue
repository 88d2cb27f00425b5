<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref } from 'vue'
import { useProgram } from '@/line/program'
import { linesOf } from '@/ui/format'
import { useRisks } from './risks'

/** The scales that risks are rated on: a line for each step, the least first. */
const emit = defineEmits<{ close: [] }>()
const store = useProgram()
const risks = useRisks()
const MOST = 10
const chance = ref(risks.scales.chance.join('\n'))
const impact = ref(risks.scales.impact.join('\n'))
const wrong = computed(() =>
  [chance, impact].some((s) => linesOf(s.value).length > MOST) ? `A scale has ${MOST} steps at most.` : '',
)
async function keep(): Promise<void> {
  const value = { chance: linesOf(chance.value), impact: linesOf(impact.value) }
  if (await store.apply('Scales of risks', [{ op: 'set', kind: 'program', field: 'scales', value }]))
    emit('close')
}
</script>

<template>
  <Dialog visible modal header="Scales of risks" :style="{ width: '480px' }" @update:visible="emit('close')">
    <form class="form" @submit.prevent="keep">
      <p class="quiet small">
        A line for each step, the least first; none for the usual five. Ratings keep their step; one above the
        last counts as the last.
      </p>
      <div class="two">
        <label>Chance <textarea v-model="chance" class="in" rows="7" autofocus /></label>
        <label>Impact <textarea v-model="impact" class="in" rows="7" /></label>
      </div>
      <p v-if="wrong" role="alert" class="failure">{{ wrong }}</p>
      <div class="buttons">
        <Button type="button" outlined label="Cancel" @click="emit('close')" />
        <Button type="submit" label="Keep" :disabled="!!wrong || !store.connected" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
p {
  margin: 0;
}

.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}

textarea {
  width: 100%;
  height: auto;
  padding: 6px 8px;
}
</style>
