<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref, watch } from 'vue'
import type { View } from '@/api/types'
import { freeKey } from '@/ui/keys'
import { useAttempt } from '@/ui/useAttempt'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import { useSession } from '@/line/session'

/** Keeps the view that is shown: for oneself, or for everybody in the program. */
const visible = defineModel<boolean>('visible', { required: true })
const store = useProgram()
const session = useSession()
const backlog = useBacklog()
const name = ref('')
const shared = ref(false)
const { failure, busy, attempt } = useAttempt()
const mayShare = computed(() => store.may({ op: 'set', kind: 'program', field: 'views' }))

const isShared = computed(() => backlog.sharedViews.some((v) => v.key === backlog.view.key))
const isPrivate = computed(() => backlog.privateViews.some((v) => v.key === backlog.view.key))

watch(visible, (open) => {
  if (!open) return
  failure.value = ''
  name.value = isShared.value || isPrivate.value ? backlog.view.name : ''
  shared.value = isShared.value
})

const list = computed<View[]>(() => (shared.value ? backlog.sharedViews : backlog.privateViews))
const same = computed(() => list.value.find((v) => v.name.toLowerCase() === name.value.trim().toLowerCase()))

async function keep(next: View[], label: string): Promise<boolean> {
  if (!shared.value) return attempt(() => backlog.keepPrivate(next))
  return store.apply(label, [{ op: 'set', kind: 'program', field: 'views', value: next }])
}

async function save(): Promise<void> {
  const title = name.value.trim()
  if (!title) return
  const taken = backlog.views.map((v) => v.key)
  const view: View = {
    ...backlog.view,
    key: same.value?.key ?? freeKey(title, taken),
    name: title,
    by: shared.value ? session.me?.name : undefined,
  }
  const next = same.value ? list.value.map((v) => (v === same.value ? view : v)) : [...list.value, view]
  if (!(await keep(next, `Save the view ${title}`))) return
  backlog.view = JSON.parse(JSON.stringify(view)) as View
  visible.value = false
}

async function remove(): Promise<void> {
  shared.value = isShared.value
  const gone = backlog.view.key
  const next = list.value.filter((v) => v.key !== gone)
  if (!(await keep(next, `Remove the view ${backlog.view.name}`))) return
  const first = backlog.vocabulary?.readyMade[0]
  if (first) backlog.show(first)
  visible.value = false
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Save this view" :style="{ width: '430px' }">
    <form class="form" @submit.prevent="save">
      <p class="quiet">Its columns, heads, order and conditions are kept.</p>
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
          :label="`Remove ${backlog.view.name}`"
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
