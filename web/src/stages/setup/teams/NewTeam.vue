<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, reactive, ref, watch } from 'vue'
import type { Team } from '@/api/types'
import { teamKey } from '@/ui/keys'
import { useProgram } from '@/line/program'
import AddedLine from '@/stages/setup/AddedLine.vue'
import { useProposals } from '@/line/proposals'
import { useDraft } from '@/line/useDraft'
import DraftLine from '@/ui/DraftLine.vue'

const visible = defineModel<boolean>('visible', { required: true })
const emit = defineEmits<{ made: [key: string] }>()
const store = useProgram()
const proposals = useProposals()
const nameField = ref<HTMLInputElement>()
const cadences = computed(() => store.program.cadences ?? [])
const form = reactive({
  name: '',
  key: '',
  unit: 'points' as Team['unit'],
  cadence: '',
  velocity: '' as number | '',
})
const ownKey = ref(false)
/** The team that was just added. */
const added = ref('')
const taken = computed(() => (store.program.teams ?? []).map((t) => t.key))

/** The form with nothing typed into it: the unit and the cadence are those of the team before. */
const empty = () => ({
  name: '',
  key: '',
  unit: form.unit,
  cadence: form.cadence || (cadences.value[0]?.key ?? ''),
  velocity: '' as number | '',
})
const clear = () => {
  Object.assign(form, empty())
  ownKey.value = false
}
watch(visible, (now) => {
  added.value = ''
  if (now) clear()
})
const draft = useDraft({
  name: () => (visible.value ? 'new team' : undefined),
  read: () => ({ ...form }),
  start: empty,
  write: (typed) => {
    Object.assign(form, typed)
    ownKey.value = true
  },
})
watch(
  () => form.name,
  (name) => {
    if (!ownKey.value) form.key = teamKey(name, taken.value)
  },
)

async function save(): Promise<void> {
  const team: Team = {
    key: form.key.trim(),
    name: form.name.trim(),
    unit: form.unit,
    cadence: form.cadence || undefined,
    velocity: form.velocity === '' ? undefined : form.velocity,
  }
  // The form is free for the next one at once: whoever types on loses no letter.
  const kept = { ...form }
  clear()
  draft.saved()
  nameField.value?.focus()
  if (await proposals.make({ do: 'add-team', team })) {
    added.value = team.name
    emit('made', team.key)
  } else Object.assign(form, kept)
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="New team" :style="{ width: '460px' }">
    <form class="form" @submit.prevent="save">
      <AddedLine :name="added" />
      <DraftLine :draft="draft" />
      <div class="row">
        <div class="field wide">
          <label for="t-name">Name</label>
          <input
            id="t-name"
            ref="nameField"
            v-model="form.name"
            autofocus
            class="in"
            maxlength="80"
            required
          />
        </div>
        <div class="field">
          <label for="t-velocity">Agreed velocity</label>
          <input
            id="t-velocity"
            v-model.number="form.velocity"
            class="in number"
            type="number"
            min="0"
            step="any"
          />
        </div>
      </div>
      <div class="row">
        <div class="field">
          <label for="t-key">Key</label>
          <input
            id="t-key"
            v-model="form.key"
            class="in number"
            maxlength="12"
            required
            @input="ownKey = true"
          />
        </div>
        <div class="field">
          <label for="t-unit">Sizes its work in</label>
          <select id="t-unit" v-model="form.unit" class="in">
            <option>points</option>
            <option>days</option>
            <option>hours</option>
          </select>
        </div>
        <div class="field wide">
          <label for="t-cadence">Cadence</label>
          <select id="t-cadence" v-model="form.cadence" class="in">
            <option value="">none: iterations made by hand</option>
            <option v-for="c in cadences" :key="c.key" :value="c.key">{{ c.name || c.key }}</option>
          </select>
        </div>
      </div>
      <p v-if="!cadences.length" class="quiet small">
        There is no cadence yet; make one under Calendar first.
      </p>
      <div class="buttons">
        <Button text type="button" label="Close" @click="visible = false" />
        <Button type="submit" label="Add" :disabled="proposals.working" />
      </div>
    </form>
  </Dialog>
</template>
