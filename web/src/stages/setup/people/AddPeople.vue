<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref, watch } from 'vue'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import { rolesKnown } from '@/line/roles'
import { useDraft } from '@/line/useDraft'
import DraftLine from '@/ui/DraftLine.vue'

/** Several people at once, a line each. */
const visible = defineModel<boolean>('visible', { required: true })
const store = useProgram()
const proposals = useProposals()
const text = ref('')
const problems = ref<string[]>([])
watch(visible, (now) => {
  if (now) text.value = ''
  problems.value = []
})
const draft = useDraft({
  name: () => (visible.value ? 'people' : undefined),
  read: () => text.value,
  start: () => '',
  write: (typed) => (text.value = typed),
})
const roles = computed(() => rolesKnown(store.program))
const example = computed(() => {
  const [a, b] = (store.program.teams ?? []).map((t) => t.key)
  const days = `off ${store.today}..${store.today}`
  return [
    `Ingrid Oksanen, ${a ?? 'TEAM'}, firmware, ${days}`,
    `Rui Figueira, ${a ?? 'TEAM'} 50%, ${b ?? 'OTHER'} 50% from ${store.today}, modelling, 6 h`,
    `open seat mobile, ${a ?? 'TEAM'} 50% from ${store.today}, mobile`,
  ].join('\n')
})

/** Shows what these people would do to capacity; they are added when somebody agrees. */
async function add(): Promise<void> {
  problems.value = []
  await proposals.propose(
    { do: 'add-people', text: text.value },
    {
      atOnce: true,
      agreed: () => {
        draft.saved()
        visible.value = false
      },
      failed: (problem) => {
        problems.value = (problem?.errors ?? []).map((d) => `${d.location}: ${d.message}`)
        if (!problems.value.length && problem?.detail) problems.value = [problem.detail]
        return problems.value.length > 0
      },
    },
  )
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Add people" :style="{ width: '640px' }">
    <form class="form" @submit.prevent="add">
      <p>
        One person a line: the name, then shares of teams by their keys, roles, hours a day and days off, set
        off by commas. A name that begins with “open seat” is planned capacity with nobody in it yet.
      </p>
      <p v-if="roles.length" class="quiet small">Roles so far: {{ roles.join(', ') }}.</p>
      <ul v-if="problems.length" class="failure" role="alert">
        <li v-for="p in problems" :key="p">{{ p }}</li>
      </ul>
      <DraftLine :draft="draft" />
      <textarea
        v-model="text"
        autofocus
        class="in"
        rows="9"
        aria-label="People, one a line"
        :placeholder="example"
        spellcheck="false"
        @keydown.ctrl.enter.prevent="add"
      />
      <div class="buttons">
        <Button text type="button" label="Cancel" @click="visible = false" />
        <Button type="submit" label="Add" :disabled="!text.trim() || proposals.working" title="Ctrl+Enter" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
p {
  margin: 0;
}

.failure {
  padding-left: 28px;
}
</style>
