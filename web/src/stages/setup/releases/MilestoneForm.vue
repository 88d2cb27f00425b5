<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, reactive, watch } from 'vue'
import type { Change, Milestone } from '@/api/types'
import { freeKey } from '@/ui/keys'
import ItemPicker from '@/line/ItemPicker.vue'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import DateField from '@/ui/DateField.vue'
import { useDraft } from '@/line/useDraft'
import DraftLine from '@/ui/DraftLine.vue'

const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{ milestone: string }>()
const store = useProgram()
const proposals = useProposals()
const all = computed(() => store.program.milestones ?? [])
const known = computed(() => all.value.find((m) => m.key === props.milestone))
const may = computed(() => store.may({ op: 'set', kind: 'milestone', key: props.milestone }))
const form = reactive({ name: '', date: '', releases: [] as string[], needs: [] as string[] })

const start = () => ({
  name: known.value?.name ?? '',
  date: known.value?.date ?? '',
  releases: [...(known.value?.releases ?? [])],
  needs: [...(known.value?.needs ?? [])],
})
watch(visible, () => Object.assign(form, start()), { immediate: true })
const draft = useDraft({
  name: () => (visible.value ? `milestone ${props.milestone || 'new'}` : undefined),
  read: () => ({ ...form }),
  start,
  write: (typed) => Object.assign(form, typed),
})

async function save(): Promise<void> {
  const { needs } = form
  const key =
    known.value?.key ??
    freeKey(
      form.name,
      all.value.map((m) => m.key),
    )
  const value: Milestone = { key, name: form.name.trim(), date: form.date, releases: form.releases, needs }
  const set = (field: keyof Milestone): Change => ({
    op: 'set',
    kind: 'milestone',
    key,
    field,
    value: value[field],
  })
  const changes: Change[] = known.value
    ? (['name', 'date', 'releases', 'needs'] as const).map(set)
    : [{ op: 'add', kind: 'milestone', key, value }]
  if (await store.apply(`Milestone ${value.name}`, changes)) {
    draft.saved()
    visible.value = false
  }
}
const remove = async () => {
  if (await proposals.make({ do: 'remove', ref: { kind: 'milestone', key: props.milestone } }))
    visible.value = false
}
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    :header="known ? 'Milestone' : 'New milestone'"
    :style="{ width: '440px' }"
  >
    <form class="form" @submit.prevent="save">
      <DraftLine :draft="draft" />
      <div class="row">
        <div class="field wide">
          <label for="m-name">Name</label>
          <input
            id="m-name"
            v-model="form.name"
            autofocus
            class="in"
            maxlength="120"
            required
            :disabled="!may"
          />
        </div>
        <div class="field">
          <label for="m-date">Date</label>
          <DateField id="m-date" v-model="form.date" required :disabled="!may" />
        </div>
      </div>
      <div class="field">
        <span class="label">Releases</span>
        <label v-for="r in store.program.releases" :key="r.key" class="check">
          <input v-model="form.releases" type="checkbox" :value="r.key" :disabled="!may" /> {{ r.name }}
        </label>
      </div>
      <div class="field">
        <span class="label">Items that must be done by then</span>
        <ul v-if="form.needs.length" class="chosen">
          <li v-for="key in form.needs" :key="key">
            <b>{{ key }}</b> {{ store.items.get(key)?.title }}
            <button
              v-if="may"
              type="button"
              class="round"
              :aria-label="`${key} need not be done by then`"
              @click="form.needs = form.needs.filter((k) => k !== key)"
            >
              <i class="pi pi-times" aria-hidden="true" />
            </button>
          </li>
        </ul>
        <ItemPicker
          v-if="may"
          label="Add an item: key or words"
          :except="form.needs"
          @pick="form.needs.push($event.key)"
        />
      </div>
      <div v-if="may" class="buttons">
        <Button v-if="known" text type="button" label="Remove" @click="remove" />
        <span class="gap" />
        <Button text type="button" label="Cancel" @click="visible = false" />
        <Button type="submit" label="Keep" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.chosen {
  display: grid;
  gap: 2px;
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
