<script setup lang="ts">
import { ref, watch } from 'vue'
import { answer, carry, client, wordsOf } from '@/api/client'
import type { Attachment, Item } from '@/api/types'
import { bytes } from '@/ui/format'
import { useProgram } from '@/line/program'

/** Files of an item. They are kept beside the program, and removed for good. */
const props = defineProps<{ item: Item }>()
const store = useProgram()
const files = ref<Attachment[]>([])
const failure = ref('')
const busy = ref(false)
const input = ref<HTMLInputElement>()
const LIMIT = 10 * 1024 * 1024
const may = () => store.may({ op: 'set', kind: 'item', key: props.item.key, field: 'attachments' })

async function load(): Promise<void> {
  const item = props.item.key
  const params = { path: { id: store.id }, query: { item } }
  const found = await answer(client.GET('/api/v1/programs/{id}/attachments', { params })).catch(() => [])
  if (item === props.item.key) files.value = found
}
watch(() => props.item.key, load, { immediate: true })

async function add(): Promise<void> {
  const file = input.value?.files?.[0]
  if (!file) return
  failure.value = ''
  if (file.size > LIMIT) {
    failure.value = `${file.name} is larger than 10 MB. Put it somewhere else and add a link to it.`
    return
  }
  busy.value = true
  const query = new URLSearchParams({ item: props.item.key, name: file.name })
  await carry(`/api/v1/programs/${store.id}/attachments?${query}`, file).catch(
    (error: Error) => (failure.value = error.message),
  )
  busy.value = false
  if (input.value) input.value.value = ''
  await load()
}
async function remove(id: number): Promise<void> {
  const params = { path: { id: store.id, attachment: id } }
  await answer(client.DELETE('/api/v1/programs/{id}/attachments/{attachment}', { params })).catch(
    (error: unknown) => (failure.value = wordsOf(error)),
  )
  asking.value = 0
  await load()
}
/** The file that waits for a yes before it is removed. */
const asking = ref(0)
</script>

<template>
  <h3>Files</h3>
  <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
  <div v-for="f in files" :key="f.id" class="entry">
    <a :href="`/api/v1/programs/${store.id}/attachments/${f.id}`" :download="f.name">{{ f.name }}</a>
    <span class="quiet small">{{ bytes(f.size) }} · {{ f.addedBy }}</span>
    <template v-if="may()">
      <button v-if="asking === f.id" class="chip" @click="remove(f.id)">Remove for good</button>
      <button v-else class="round" :aria-label="`Remove ${f.name}`" @click="asking = f.id">
        <i class="pi pi-times" aria-hidden="true" />
      </button>
    </template>
  </div>
  <label v-if="may()" class="add">
    <input ref="input" type="file" :disabled="busy" aria-label="Attach a file" @change="add" />
    <span class="quiet small">up to 10 MB</span>
  </label>
</template>

<style scoped>
h3 {
  font-size: 13px;
}

p {
  margin: 0;
}

.entry,
.add {
  display: flex;
  gap: 8px;
  align-items: center;
}

.entry a {
  flex: 1;
  min-width: 0;
  color: inherit;
  overflow-wrap: anywhere;
}

.add input {
  min-width: 0;
  font: inherit;
}
</style>
