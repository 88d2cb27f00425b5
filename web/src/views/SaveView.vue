<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref, watch } from 'vue'
import type { View } from '@/api/types'
import { freeKey } from '@/ui/keys'
import { useAttempt } from '@/ui/useAttempt'
import { useProgram } from '@/line/program'
import { useSession } from '@/line/session'
import { copyOf, useViews } from './views'

/** Keeps a view: for oneself, or for everybody in the program. */
const props = defineProps<{ view: View; keeps: string }>()
const emit = defineEmits<{ saved: [view: View]; removed: [] }>()
const visible = defineModel<boolean>('visible', { required: true })
const store = useProgram()
const session = useSession()
const views = useViews()
const name = ref('')
const shared = ref(false)
const { failure, busy, attempt } = useAttempt()
const mayShare = computed(() => store.may({ op: 'set', kind: 'program', field: 'views' }))

const isShared = computed(() => views.shared.some((v) => v.key === props.view.key))
const isPrivate = computed(() => views.mine.some((v) => v.key === props.view.key))

watch(visible, (open) => {
  if (!open) return
  failure.value = ''
  name.value = isShared.value || isPrivate.value ? props.view.name : ''
  shared.value = isShared.value
})

const list = computed<View[]>(() => (shared.value ? views.shared : views.mine))
const same = computed(() => list.value.find((v) => v.name.toLowerCase() === name.value.trim().toLowerCase()))

async function keep(next: View[], label: string): Promise<boolean> {
  if (!shared.value) return attempt(() => views.keep(next))
  return store.apply(label, [{ op: 'set', kind: 'program', field: 'views', value: next }])
}

async function save(): Promise<void> {
  const title = name.value.trim()
  if (!title) return
  const taken = views.all.map((v) => v.key)
  const view: View = {
    ...props.view,
    key: same.value?.key ?? freeKey(title, taken),
    name: title,
    by: shared.value ? session.me?.name : undefined,
  }
  const next = same.value ? list.value.map((v) => (v === same.value ? view : v)) : [...list.value, view]
  if (!(await keep(next, `Save the view ${title}`))) return
  emit('saved', copyOf(view))
  visible.value = false
}

async function remove(): Promise<void> {
  shared.value = isShared.value
  const gone = props.view.key
  const next = list.value.filter((v) => v.key !== gone)
  if (!(await keep(next, `Remove the view ${props.view.name}`))) return
  emit('removed')
  visible.value = false
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Save this view" :style="{ width: '430px' }">
    <form class="form" @submit.prevent="save">
      <p class="quiet">{{ keeps }}</p>
      <label class="field"
        ><span class="label">Name</span><input v-model="name" autofocus class="in" maxlength="100"
      /></label>
      <label class="check"
        ><input v-model="shared" type="checkbox" :disabled="!mayShare" /><span
          >Share it with everybody in the program</span
        ></label
      >
      <p v-if="!mayShare" class="quiet small">Program managers share views.</p>
      <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
      <div class="buttons">
        <Button
          v-if="isPrivate || (isShared && mayShare)"
          text
          type="button"
          severity="danger"
          :label="`Remove ${view.name}`"
          @click="remove"
        />
        <span class="gap" />
        <Button text type="button" label="Cancel" @click="visible = false" />
        <Button type="submit" :label="same ? 'Replace' : 'Save'" :disabled="busy || !name.trim()" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
