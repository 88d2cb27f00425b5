<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { computed, ref } from 'vue'
import { useProgram } from '@/line/program'
import { linesOf } from '@/ui/format'

/** The sections that the plan of every iteration has: a line for each, with what belongs there. */
const emit = defineEmits<{ close: [] }>()
const store = useProgram()
const text = ref(
  (store.program.settings.planSections ?? [])
    .map((s) => (s.ask ? `${s.title}: ${s.ask}` : s.title))
    .join('\n'),
)
const sections = computed(() =>
  linesOf(text.value).map((line) => {
    const [title, ...ask] = line.split(':')
    return { title: title.trim(), ask: ask.join(':').trim() || undefined }
  }),
)
const twice = computed(() => {
  const titles = sections.value.map((s) => s.title)
  return titles.find((t, i) => titles.indexOf(t) < i)
})
async function keep(): Promise<void> {
  const value = sections.value.length ? sections.value : null
  const changes = [{ op: 'set' as const, kind: 'program' as const, field: 'planSections', value }]
  if (await store.apply('Sections of iteration plans', changes)) emit('close')
}
</script>

<template>
  <Dialog
    visible
    modal
    header="Sections of every iteration plan"
    :style="{ width: '520px' }"
    @update:visible="emit('close')"
  >
    <form class="form" @submit.prevent="keep">
      <label class="field"
        ><span class="label">A line for each: its heading, and after a colon what belongs there</span>
        <textarea
          v-model="text"
          class="in"
          rows="8"
          placeholder="Who shows it: a name and a day&#10;What could stop us"
          autofocus
        />
      </label>
      <p class="quiet small">
        A new brief about an iteration begins with them, and says which are still to be written.
      </p>
      <p v-if="twice" role="alert" class="failure">{{ twice }} is there twice.</p>
      <div class="buttons">
        <button type="button" class="plain-button" @click="emit('close')">Leave it</button>
        <button class="plain-button main" :disabled="!!twice || !store.connected">Keep them</button>
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 8px;
}

p {
  margin: 0;
}

textarea {
  width: 100%;
  height: auto;
}
</style>
