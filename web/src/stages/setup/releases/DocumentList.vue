<script setup lang="ts">
import Button from 'primevue/button'
import { reactive, ref } from 'vue'
import type { ReleaseDocument } from '@/api/types'
import ItemPicker from '@/line/ItemPicker.vue'
import { useProgram } from '@/line/program'

/** Links to a release's documents, and the items that produce them. */
const props = defineProps<{ documents: ReleaseDocument[]; may: boolean }>()
const emit = defineEmits<{ change: [documents: ReleaseDocument[]] }>()
const store = useProgram()
const open = ref(false)
const kinds = {
  notes: 'notes',
  'test-report': 'test report',
  'security-review': 'security review',
  other: 'other',
}
const form = reactive({ title: '', address: '', kind: 'notes' as ReleaseDocument['kind'], item: '' })

/** Which document is edited; none: a new one. */
const editing = ref<number>()
function begin(at?: number): void {
  const d = at === undefined ? undefined : props.documents[at]
  editing.value = at
  Object.assign(form, {
    title: d?.title ?? '',
    address: d?.address ?? '',
    kind: d?.kind ?? 'notes',
    item: d?.item ?? '',
  })
  open.value = true
}
function keep(): void {
  const made: ReleaseDocument = { title: form.title.trim(), kind: form.kind }
  if (form.address) made.address = form.address
  if (form.item) made.item = form.item
  const at = editing.value
  emit('change', at === undefined ? [...props.documents, made] : props.documents.with(at, made))
  if (at === undefined) begin()
  else open.value = false
}
const remove = (i: number) =>
  emit(
    'change',
    props.documents.filter((_, j) => j !== i),
  )

function itemState(key: string | undefined): string {
  const item = store.items.get(key ?? '')
  if (!item) return key ?? ''
  return `${item.key} ${item.title}${item.state === 'done' ? ' (done)' : ''}`
}
</script>

<template>
  <div class="heading">
    <h2>Documents</h2>
    <Button
      v-if="may"
      size="small"
      text
      icon="pi pi-plus"
      label="Add a document"
      @click="open && editing === undefined ? (open = false) : begin()"
    />
  </div>
  <p v-if="!documents.length" class="quiet">Links to notes, test reports, reviews: none yet.</p>
  <table v-else class="table">
    <thead>
      <tr>
        <th>Title</th>
        <th>Kind</th>
        <th>Comes from</th>
        <th v-if="may"><span class="visually-hidden">Edit, remove</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(d, i) in documents" :key="i">
        <td>
          <a v-if="d.address" :href="d.address" target="_blank" rel="noopener noreferrer">{{ d.title }}</a>
          <template v-else>{{ d.title }} <span class="quiet">no address yet</span></template>
        </td>
        <td>{{ kinds[d.kind] }}</td>
        <td>{{ itemState(d.item) }}</td>
        <td v-if="may" class="n">
          <button class="round" :aria-label="`Edit ${d.title}`" @click="begin(i)">
            <i class="pi pi-pencil" aria-hidden="true" />
          </button>
          <button class="round" :aria-label="`Remove ${d.title}`" @click="remove(i)">
            <i class="pi pi-times" aria-hidden="true" />
          </button>
        </td>
      </tr>
    </tbody>
  </table>
  <form v-if="open && may" class="row add" @submit.prevent="keep">
    <div class="field wide">
      <label for="d-title">Title</label>
      <input id="d-title" v-model="form.title" class="in" maxlength="200" required />
    </div>
    <div class="field wide">
      <label for="d-address">Address</label>
      <input
        id="d-address"
        v-model="form.address"
        class="in"
        type="url"
        pattern="https?://.+"
        placeholder="https://"
      />
    </div>
    <div class="field">
      <label for="d-kind">Kind</label>
      <select id="d-kind" v-model="form.kind" class="in">
        <option v-for="(label, key) in kinds" :key="key" :value="key">{{ label }}</option>
      </select>
    </div>
    <div class="field">
      <span class="label">From item</span>
      <span v-if="form.item" class="from">
        {{ itemState(form.item) }}
        <button type="button" class="round" aria-label="From no item" @click="form.item = ''">
          <i class="pi pi-times" aria-hidden="true" />
        </button>
      </span>
      <ItemPicker v-else label="key or words" @pick="form.item = $event.key" />
    </div>
    <Button type="submit" size="small" :label="editing === undefined ? 'Add' : 'Keep'" />
    <Button
      v-if="editing !== undefined"
      text
      size="small"
      type="button"
      label="Cancel"
      @click="open = false"
    />
  </form>
</template>

<style scoped>
.heading {
  display: flex;
  align-items: center;
  gap: 10px;
}

.add {
  margin-top: 10px;
}

a {
  color: inherit;
}
</style>
