<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { useProposals } from '@/line/proposals'
import { count } from '@/ui/format'
import { useProgram } from '@/line/program'

/** Iterations that are over and not closed, and one step to close them. */
const store = useProgram()
const proposals = useProposals()
const ended = computed(() =>
  (store.program.teams ?? []).flatMap((t) =>
    (store.teamFacts.get(t.key)?.ended ?? []).map((key) => ({ team: t.key, key })),
  ),
)
const shown = 6
const names = computed(() => {
  const first = ended.value.slice(0, shown).map((x) => store.iterationName(x.team, x.key))
  const more = ended.value.length - first.length
  return first.join(', ') + (more > 0 ? ` and ${more} more` : '')
})
const closable = computed(() =>
  [...new Set(ended.value.map((x) => x.team))].filter((team) =>
    store.may({ op: 'set', kind: 'iteration', in: team, key: '', field: 'state' }),
  ),
)
</script>

<template>
  <p v-if="ended.length" class="ended" role="status" data-region>
    <span>
      <b>{{ count(ended.length, 'iteration has', 'iterations have') }} ended:</b> {{ names }}.
      <span class="quiet">Closing notes what was completed, and what is not done goes on.</span>
    </span>
    <Button
      v-if="closable.length"
      size="small"
      outlined
      :label="ended.length === 1 ? 'Close it…' : 'Close them…'"
      :disabled="!store.connected || proposals.working"
      @click="proposals.propose({ do: 'close-ended', teams: closable })"
    />
  </p>
</template>

<style scoped>
.ended {
  display: flex;
  flex: none;
  gap: 14px;
  align-items: center;
  margin: 0;
  padding: 3px 16px;
  border-bottom: 1px solid var(--rule);
  background: var(--tint);
}

.ended :deep(.p-button) {
  height: 26px;
  white-space: nowrap;
}
</style>
