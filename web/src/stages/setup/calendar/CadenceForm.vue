<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, reactive, ref, watch } from 'vue'
import type { Cadence } from '@/api/types'
import { freeKey } from '@/ui/keys'
import { useProgram } from '@/line/program'
import AddedLine from '@/stages/setup/AddedLine.vue'
import { useProposals } from '@/line/proposals'
import DateField from '@/ui/DateField.vue'

const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{ cadence?: Cadence }>()
const store = useProgram()
const proposals = useProposals()
const nameField = ref<HTMLInputElement>()
const form = reactive({ name: '', start: '', length: 2, unit: 7, ahead: 8, naming: '', carryOver: true })

function fill(): void {
  const c = props.cadence
  const days = c?.lengthDays ?? 14
  Object.assign(form, {
    name: c ? c.name || c.key : '',
    start: c?.start ?? store.today,
    length: days % 7 ? days : days / 7,
    unit: days % 7 ? 1 : 7,
    ahead: c ? (c.ahead ?? 0) : 8,
    naming: c?.naming ?? '{team}·{n}',
    carryOver: c ? !!c.carryOver : true,
  })
}
/** The cadence that was just added. */
const added = ref('')
watch(visible, (now) => {
  added.value = ''
  if (now) fill()
})

const value = computed<Cadence>(() => ({
  key:
    props.cadence?.key ??
    freeKey(
      form.name,
      (store.program.cadences ?? []).map((c) => c.key),
    ),
  name: form.name.trim(),
  start: form.start,
  lengthDays: form.length * form.unit,
  ahead: form.ahead || undefined,
  naming: form.naming.trim() || undefined,
  carryOver: form.carryOver || undefined,
}))
const mayEdit = computed(() => store.may({ op: 'set', kind: 'cadence', key: props.cadence?.key }))

async function save(): Promise<void> {
  const body = { do: 'save-cadence' as const, cadence: value.value }
  // What exists has teams that follow it: what changes for them is shown first.
  if (props.cadence) {
    await proposals.propose(body, { agreed: close })
    return
  }
  // The form is free for the next one at once: whoever types on loses no letter.
  const kept = { ...form }
  fill()
  nameField.value?.focus()
  if (await proposals.make(body)) added.value = kept.name.trim() || 'The cadence'
  else Object.assign(form, kept)
}
const remove = () =>
  proposals.propose({ do: 'remove', ref: { kind: 'cadence', key: props.cadence!.key } }, { agreed: close })
function close(): void {
  visible.value = false
}
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    :header="cadence ? 'Cadence' : 'New cadence'"
    :style="{ width: '470px' }"
  >
    <form class="form" @submit.prevent="save">
      <AddedLine :name="added" />
      <div class="field">
        <label for="c-name">Name</label>
        <input
          id="c-name"
          ref="nameField"
          v-model="form.name"
          autofocus
          class="in"
          maxlength="60"
          required
          :disabled="!mayEdit"
        />
      </div>
      <div class="row">
        <div class="field">
          <label for="c-start">First iteration starts</label>
          <DateField id="c-start" v-model="form.start" required :disabled="!mayEdit" />
        </div>
        <div class="field">
          <label for="c-length">Length</label>
          <input
            id="c-length"
            v-model.number="form.length"
            class="in number"
            type="number"
            min="1"
            max="366"
            required
            :disabled="!mayEdit"
          />
        </div>
        <div class="field">
          <label for="c-unit">in</label>
          <select id="c-unit" v-model.number="form.unit" class="in" :disabled="!mayEdit">
            <option :value="7">weeks</option>
            <option :value="1">days</option>
          </select>
        </div>
        <div class="field">
          <label for="c-ahead">Keep ahead</label>
          <input
            id="c-ahead"
            v-model.number="form.ahead"
            class="in number"
            type="number"
            min="0"
            max="300"
            :disabled="!mayEdit"
          />
        </div>
      </div>
      <div class="field">
        <label for="c-naming">Names of new iterations</label>
        <input id="c-naming" v-model="form.naming" class="in" maxlength="80" :disabled="!mayEdit" />
        <span class="hint">
          {team} is the team’s key and {n} a running number; or {release} with {k}, the number within the
          release.
        </span>
      </div>
      <label class="check">
        <input v-model="form.carryOver" type="checkbox" :disabled="!mayEdit" />
        <span>Unfinished items go on into the next iteration when one closes</span>
      </label>
      <p v-if="cadence" class="quiet small">
        Only iterations that have not started take new dates and names. Which, is shown before it is applied.
      </p>
      <div v-if="mayEdit" class="buttons">
        <Button v-if="cadence" text type="button" label="Remove" @click="remove" />
        <span class="gap" />
        <Button text type="button" :label="cadence ? 'Cancel' : 'Close'" @click="visible = false" />
        <Button type="submit" :label="cadence ? 'See what changes' : 'Add'" :disabled="proposals.working" />
      </div>
    </form>
  </Dialog>
</template>
