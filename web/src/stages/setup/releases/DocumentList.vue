<script setup lang="ts">
import Button from 'primevue/button'
import { reactive, ref } from 'vue'
import type { ReleaseDocument } from '@/api/types'
import { useProgram } from '@/line/program'

/** Links to a release's documents, and the items that produce them. */
const props = defineProps<{ documents: ReleaseDocument[]; may: boolean }>()
const emit = defineEmits<{ change: [documents: ReleaseDocument[]] }>()
const store = useProgram()
const adding = ref(false)
const kinds = {
  notes: 'notes',
  'test-report': 'test report',
  'security-review': 'security review',
  other: 'other',
}
const form = reactive({ title: '', address: '', kind: 'notes' as ReleaseDocument['kind'], item: '' })

function add(): void {
  const made: ReleaseDocument = { title: form.title.trim(), kind: form.kind }
  if (form.address) made.address = form.address
  if (form.item) made.item = form.item.trim()
  emit('change', [...props.documents, made])
  Object.assign(form, { title: '', address: '', item: '' })
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
    <Button v-if="may" size="small" text icon="pi pi-plus" label="Add a document" @click="adding = !adding" />
  </div>
  <p v-if="!documents.length" class="quiet">Links to notes, test reports, reviews: none yet.</p>
  <table v-else class="table">
    <thead>
      <tr>
        <th>Title</th>
        <th>Kind</th>
        <th>Comes from</th>
        <th v-if="may"><span class="visually-hidden">Remove</span></th>
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
          <button class="round" :aria-label="`Remove ${d.title}`" @click="remove(i)">
            <i class="pi pi-times" aria-hidden="true" />
          </button>
        </td>
      </tr>
    </tbody>
  </table>
  <form v-if="adding && may" class="row add" @submit.prevent="add">
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
      <label for="d-item">From item</label>
      <input id="d-item" v-model="form.item" class="in number" list="d-items" placeholder="key" />
      <datalist id="d-items">
        <option v-for="i in (store.program.items ?? []).slice(0, 500)" :key="i.key" :value="i.key">
          {{ i.title }}
        </option>
      </datalist>
    </div>
    <Button type="submit" size="small" label="Add" />
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
