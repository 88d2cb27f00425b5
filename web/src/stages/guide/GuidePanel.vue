<script setup lang="ts">
import { computed, ref } from 'vue'
import { useProgram } from '@/line/program'
import SidePanel from '@/ui/SidePanel.vue'
import GuideForm from './GuideForm.vue'
import GuideStep from './GuideStep.vue'
import { useGuide } from './guide'

/** Beside a stage: how its step is done well. */
const guide = useGuide()
const store = useProgram()
const editing = ref(false)
const may = computed(() => store.may({ op: 'set', kind: 'program', field: 'guides' }) && !store.past)
const off = () =>
  void store.apply('Switch guidance off', [{ op: 'set', kind: 'program', field: 'guidance', value: false }])
</script>

<template>
  <SidePanel
    label="Guidance"
    :title="`${guide.step?.title ?? ''}, done well`"
    closes="Close the guidance"
    @close="guide.open = false"
  >
    <p v-if="guide.found.failure" role="alert" class="failure">{{ guide.found.failure }}</p>
    <p v-else-if="!guide.step" role="status" class="quiet">Looking…</p>
    <template v-else>
      <GuideForm v-if="editing" :key="guide.step.stage" :stage="guide.step.stage" @close="editing = false" />
      <GuideStep v-else :step="guide.step" />
      <footer>
        <button v-if="may && !editing" class="link" @click="editing = true">In your own words…</button>
        <RouterLink class="link" :to="{ name: 'report', params: { id: store.id }, query: { as: 'working' } }"
          >The whole way of working</RouterLink
        >
        <button v-if="may" class="link" @click="off">Switch it off for all</button>
      </footer>
    </template>
  </SidePanel>
</template>

<style scoped>
footer {
  display: grid;
  gap: 4px;
  justify-items: start;
  margin-top: 8px;
  padding-top: 8px;
  border-top: 1px solid var(--rule);
}
</style>
