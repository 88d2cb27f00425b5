<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref, watch } from 'vue'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'
import { useDraft } from '@/line/useDraft'
import DraftLine from '@/ui/DraftLine.vue'
import { useAttempt } from '@/ui/useAttempt'

/** Asks for a scenario's name, what it assumes and who sees it. */
const store = useProgram()
const scenarios = useScenarios()
const { failure, busy, attempt } = useAttempt()
const name = ref('')
const note = ref('')
const shared = ref(false)
const removing = ref(false)

watch(
  () => scenarios.asked,
  (now) => {
    name.value = now?.of?.name ?? now?.name ?? ''
    note.value = now?.of?.note ?? ''
    shared.value = now?.of?.shared ?? false
    removing.value = false
    failure.value = ''
  },
  { immediate: true },
)

const draft = useDraft({
  name: () => scenarios.asked && `scenario ${scenarios.asked.of?.id ?? 'new'}`,
  read: () => ({ name: name.value, note: note.value, shared: shared.value }),
  start: () => {
    const { asked } = scenarios
    return {
      name: asked?.of?.name ?? asked?.name ?? '',
      note: asked?.of?.note ?? '',
      shared: asked?.of?.shared ?? false,
    }
  },
  write: (typed) => {
    name.value = typed.name
    note.value = typed.note
    shared.value = typed.shared
  },
})

const from = computed(() => {
  if (scenarios.asked?.at) return `the plan as it was at revision ${scenarios.asked.at}`
  return store.line.scenario ? `“${scenarios.name ?? 'this scenario'}”` : 'the live plan as it is now'
})
const about = () => ({ name: name.value.trim(), note: note.value.trim(), shared: shared.value })

async function keep(): Promise<void> {
  const asked = scenarios.asked
  if (!asked || !name.value.trim()) return
  const done = await attempt(() =>
    asked.of ? scenarios.save(asked.of.id, about()) : scenarios.make(about(), asked),
  )
  if (!done) return
  draft.saved()
  scenarios.asked = undefined
}

async function remove(): Promise<void> {
  const of = scenarios.asked?.of
  if (of && (await attempt(() => scenarios.remove(of.id)))) scenarios.asked = undefined
}
</script>

<template>
  <Dialog
    :visible="!!scenarios.asked"
    modal
    :header="scenarios.asked?.of ? 'The scenario' : 'New scenario'"
    :style="{ width: '460px' }"
    @update:visible="scenarios.asked = undefined"
  >
    <form id="scenario" class="form" @submit.prevent="keep">
      <DraftLine :draft="draft" />
      <p v-if="!scenarios.asked?.of" class="quiet">
        A copy of {{ from }} in which everything can be tried. It touches nothing until it is published.
      </p>
      <label>
        Name
        <input
          v-model="name"
          autofocus
          class="in"
          maxlength="120"
          required
          placeholder="What is tried, in a few words"
        />
      </label>
      <label>
        What it assumes
        <textarea v-model="note" class="in" rows="3" maxlength="2000" />
      </label>
      <label class="check">
        <input v-model="shared" type="checkbox" />
        All who belong to the program see it
      </label>
      <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    </form>
    <template #footer>
      <template v-if="scenarios.asked?.of">
        <Button v-if="!removing" text severity="danger" label="Delete…" @click="removing = true" />
        <Button
          v-else
          severity="danger"
          outlined
          label="Delete it for good"
          :disabled="busy"
          @click="remove"
        />
      </template>
      <span class="gap" />
      <Button text label="Leave it" @click="scenarios.asked = undefined" />
      <Button
        type="submit"
        form="scenario"
        :label="scenarios.asked?.of ? 'Keep' : 'Make it'"
        :disabled="busy || !name.trim()"
      />
    </template>
  </Dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 12px;
}

.form p {
  margin: 0;
}

label:not(.check) {
  display: grid;
  gap: 4px;
}

.gap {
  flex: 1;
}
</style>
