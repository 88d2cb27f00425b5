<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { ref } from 'vue'
import { answer, client } from '@/api/client'
import { useProgram } from '@/line/program'
import { useAttempt } from '@/ui/useAttempt'

/** Keeps how the program works as a template, for new programs of this server. */
const emit = defineEmits<{ close: []; kept: [name: string] }>()
const store = useProgram()
const { failure, busy, attempt } = useAttempt()
const name = ref(`As ${store.program.name} works`)
const says = ref('')
async function keep(): Promise<void> {
  const body = { name: name.value.trim(), says: says.value.trim() || undefined }
  const done = await attempt(() =>
    answer(client.POST('/api/v1/programs/{id}/template', { params: { path: { id: store.id } }, body })),
  )
  if (!done) return
  emit('kept', body.name)
  emit('close')
}
</script>

<template>
  <Dialog
    visible
    modal
    header="Keep this way of working as a template"
    :style="{ width: '520px' }"
    @update:visible="emit('close')"
  >
    <form class="form" @submit.prevent="keep">
      <p>
        It holds cadences, rules, mix, steps, roles, activities, phases, patterns, repeated items, scales of
        risks, plan sections, guidance, shared views, pages that all see, and the sections of the newest
        briefs. Teams, people and work stay here, and so do cards and views that name them.
      </p>
      <label class="field"
        ><span class="label">Name</span><input v-model="name" class="in" maxlength="200" autofocus />
      </label>
      <label class="field"
        ><span class="label">What it is for</span
        ><input v-model="says" class="in" maxlength="2000" placeholder="For programs with suppliers" />
      </label>
      <p v-if="failure" role="alert" class="failure">{{ failure }}</p>
      <div class="buttons">
        <button type="button" class="plain-button" @click="emit('close')">Leave it</button>
        <button class="plain-button main" :disabled="!name.trim() || busy">Keep it</button>
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
</style>
