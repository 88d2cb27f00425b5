<script setup lang="ts">
import Button from 'primevue/button'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'
import { asDate, shortDay, timeText } from '@/ui/dates'
import { count } from '@/ui/format'

/** Which line is in view, wherever it is not the live plan: whose it is, how far both have gone, and the way back. */
const store = useProgram()
const scenarios = useScenarios()
const router = useRouter()
const MergeDialog = defineAsyncComponent(() => import('./MergeDialog.vue'))
const ScenarioDialog = defineAsyncComponent(() => import('./ScenarioDialog.vue'))
const merges = ref(false)
const asks = ref(false)
watch(
  () => scenarios.merging,
  (now) => (merges.value ||= !!now),
)
watch(
  () => scenarios.asked,
  (now) => (asks.value ||= !!now),
)

const here = computed(() => scenarios.here)
const said = computed(() => {
  const h = here.value
  if (!h) return ''
  const parts = [
    `a ${h.shared ? 'shared' : 'private'} scenario of ${h.mine ? 'yours' : h.by}, made from ${h.from}`,
  ]
  parts.push(h.changes ? count(h.changes, 'change') : 'nothing changed yet')
  parts.push(newer.value ? `${count(newer.value, 'edit')} newer in the live plan` : 'up to date')
  return parts.join(' · ')
})
/** Edits of the live plan that it does not have yet. */
const newer = computed(() => Math.max(0, (store.live || here.value?.live || 0) - (here.value?.upTo ?? 0)))
/** Beside the live plan, on the page of figures. */
const compare = () => router.push({ name: 'plan', params: { id: store.id }, query: { as: 'compare' } })
const may = (what: string) => store.may({ op: 'set', kind: 'program', field: what })
/** When the past is that is in view. */
const moment = computed(() => {
  const at = store.line.at
  if (/T/.test(at)) return timeText(at, asDate(store.todayDay))
  return shortDay(store.todayDay, undefined)
})
</script>

<template>
  <div v-if="store.past" class="band past" role="region" aria-label="The line in view" data-region>
    <b>As it was{{ store.line.at.includes('-') ? ' on ' + moment : '' }}</b>
    <span class="said">
      revision {{ store.revision }}, seen on {{ moment }}: everything is shown as it was then, and nothing can
      be changed
    </span>
    <Button size="small" label="Compare" @click="compare()" />
    <Button size="small" label="Scenario of it…" @click="scenarios.asked = { at: String(store.revision) }" />
    <Button size="small" label="Back to the live plan" @click="scenarios.show({})" />
  </div>
  <div
    v-else-if="store.line.scenario"
    class="band"
    role="region"
    aria-label="The line in view"
    data-region
    :style="{ background: scenarios.colourOf(store.line.scenario) }"
  >
    <b :title="here?.note">{{ scenarios.name ?? 'A scenario' }}</b>
    <span class="said" :title="here?.note ? `Assumes: ${here.note}` : undefined">{{ said }}</span>
    <Button
      v-if="newer"
      size="small"
      label="Bring up to date…"
      :disabled="store.mine.role === 'viewer'"
      @click="scenarios.merging = 'bring'"
    />
    <Button size="small" label="Compare" @click="compare()" />
    <Button
      size="small"
      label="Publish…"
      :disabled="!here?.changes || !may('publish')"
      @click="scenarios.merging = 'publish'"
    />
    <Button size="small" label="Back to the live plan" @click="scenarios.show({})" />
  </div>
  <MergeDialog v-if="merges" />
  <ScenarioDialog v-if="asks" />
</template>

<style scoped>
.band {
  display: flex;
  flex: none;
  gap: 12px;
  align-items: center;
  min-height: 32px;
  padding: 2px 16px;
  color: var(--on-block);
}

.band b {
  max-width: 320px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-family: var(--heading);
}

.past {
  background: repeating-linear-gradient(135deg, #4a5560 0 14px, #414b55 14px 28px);
}

.said {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 13px;
}

.band :deep(.p-button) {
  height: 24px;
  border: 1px solid #ffffff;
  border-radius: 12px;
  background: #fffdf8;
  color: #16283a;
  white-space: nowrap;
}

.band :deep(.p-button:disabled) {
  opacity: 0.6;
}
</style>
