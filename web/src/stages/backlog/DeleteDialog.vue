<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Outcome } from '@/api/types'
import { count } from '@/ui/format'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'

/** Deletes the selection, once it is clear what depends on it. */
const visible = defineModel<boolean>('visible', { required: true })
const store = useProgram()
const backlog = useBacklog()
const keys = ref<string[]>([])
const below = ref(true)
const found = shallowRef<Outcome>()
const groups = computed(() => keys.value.some((key) => !store.itemFacts.get(key)?.leaf))

async function look(): Promise<void> {
  found.value = undefined
  found.value = await backlog.edit({ do: 'delete', keys: keys.value, below: below.value }, { dry: true })
  if (!found.value) visible.value = false
}
watch(visible, (open) => {
  if (!open) return
  keys.value = [...backlog.selection]
  below.value = true
  void look()
})

async function remove(): Promise<void> {
  const at = backlog.places.get(keys.value[0]) ?? 0
  const done = await backlog.edit(
    { do: 'delete', keys: keys.value, below: below.value },
    { revision: found.value?.revision },
  )
  if (!done) return
  visible.value = false
  const gone = new Set(done.keys)
  const next = backlog.shown.slice(at).find((key) => !gone.has(key)) ?? backlog.shown[0] ?? ''
  backlog.go(next)
  backlog.unpick()
  store.notice = undefined
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Delete" :style="{ width: '520px' }">
    <p v-if="groups">
      <label class="check"
        ><input v-model="below" type="checkbox" @change="look" /><span
          >What belongs to them goes, too</span
        ></label
      >
    </p>
    <template v-if="found">
      <p>
        <b>{{ count(found.keys.length, 'item') }}</b> will be deleted: {{ found.keys.slice(0, 12).join(', ')
        }}{{ found.keys.length > 12 ? '…' : '' }}.
      </p>
      <template v-if="found.notes.length">
        <p>What depends on them:</p>
        <ul>
          <li v-for="note in found.notes.slice(0, 30)" :key="note">{{ note }}.</li>
          <li v-if="found.notes.length > 30">and {{ found.notes.length - 30 }} more</li>
        </ul>
      </template>
      <p v-else class="quiet">Nothing else depends on them.</p>
      <p class="quiet small">This is one step to undo.</p>
      <div class="buttons">
        <Button text label="Cancel" @click="visible = false" />
        <Button v-focus severity="danger" label="Delete" @click="remove" />
      </div>
    </template>
  </Dialog>
</template>
