<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { reactive, ref, watch } from 'vue'
import { freeKey } from '@/ui/keys'
import { useProgram } from '@/line/program'
import AddedLine from '@/stages/setup/AddedLine.vue'
import DateField from '@/ui/DateField.vue'
import { useDraft } from '@/line/useDraft'
import DraftLine from '@/ui/DraftLine.vue'

const visible = defineModel<boolean>('visible', { required: true })
const emit = defineEmits<{ made: [key: string] }>()
const store = useProgram()
const nameField = ref<HTMLInputElement>()
/** The release that was just added. */
const added = ref('')
const form = reactive({ name: '', start: '', due: '' })
const empty = () => ({ name: '', start: store.today, due: '' })
watch(visible, (now) => {
  added.value = ''
  if (now) Object.assign(form, empty())
})
const draft = useDraft({
  name: () => (visible.value ? 'new release' : undefined),
  read: () => ({ ...form }),
  start: empty,
  write: (typed) => Object.assign(form, typed),
})

async function save(): Promise<void> {
  const key = freeKey(
    form.name,
    (store.program.releases ?? []).map((r) => r.key),
  )
  const value = { key, name: form.name.trim(), start: form.start || undefined, due: form.due || undefined }
  // The form is free for the next one at once: whoever types on loses no letter.
  const kept = { ...form }
  Object.assign(form, { name: '', start: form.due || store.today, due: '' })
  draft.saved()
  nameField.value?.focus()
  if (await store.apply(`New release ${value.name}`, [{ op: 'add', kind: 'release', key, value }])) {
    added.value = value.name
    emit('made', key)
  } else Object.assign(form, kept)
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="New release" :style="{ width: '420px' }">
    <form class="form" @submit.prevent="save">
      <AddedLine :name="added" />
      <DraftLine :draft="draft" />
      <div class="field">
        <label for="nr-name">Name</label>
        <input
          id="nr-name"
          ref="nameField"
          v-model="form.name"
          autofocus
          class="in"
          maxlength="120"
          required
        />
      </div>
      <div class="row">
        <div class="field">
          <label for="nr-start">Starts</label>
          <DateField id="nr-start" v-model="form.start" />
        </div>
        <div class="field">
          <label for="nr-due">Due</label>
          <DateField id="nr-due" v-model="form.due" :min="form.start" />
        </div>
      </div>
      <div class="buttons">
        <Button text type="button" label="Close" @click="visible = false" />
        <Button type="submit" label="Add" />
      </div>
    </form>
  </Dialog>
</template>
