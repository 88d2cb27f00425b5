<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, reactive, ref, watch } from 'vue'
import type { Change, DayOff, Person } from '@/api/types'
import RolesField from '@/line/RolesField.vue'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import DateField from '@/ui/DateField.vue'
import { dayNames } from '@/ui/dates'
import { stillTyped, useDraft } from '@/line/useDraft'
import DraftLine from '@/ui/DraftLine.vue'

const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{ person?: string }>()
const store = useProgram()
const proposals = useProposals()
const person = computed(() => store.program.people?.find((p) => p.key === props.person))
const may = (field: string) => store.may({ op: 'set', kind: 'person', key: props.person, field })
const form = reactive({
  name: '',
  roles: '',
  hours: 8,
  weekdays: [] as number[],
  openSeat: false,
  calendar: '',
})
const daysOff = ref<DayOff[]>([])
const off = reactive({ from: '', to: '', name: '' })
const file = ref<HTMLInputElement>()

/** What stands in the form of a person of whom nothing was changed. */
const formOf = (p: Person) => ({
  name: p.name,
  roles: (p.roles ?? []).join(', '),
  hours: p.hoursPerDay || 8,
  weekdays: p.weekdays?.length ? [...p.weekdays] : [1, 2, 3, 4, 5],
  openSeat: !!p.openSeat,
  calendar: p.calendar ?? '',
  daysOff: (p.daysOff ?? []).map((d) => ({ ...d })),
})
const typed = () => ({ ...form, daysOff: daysOff.value })
function write({ daysOff: days, ...rest }: ReturnType<typeof formOf>): void {
  Object.assign(form, rest)
  daysOff.value = days
}
watch(
  [visible, person],
  ([open, now], [wasOpen, before]) => {
    if (!now) return
    const is = formOf(now)
    write(open && wasOpen && before?.key === now.key ? stillTyped(formOf(before), is, typed()) : is)
  },
  { immediate: true },
)
const draft = useDraft({
  name: () => (visible.value && person.value ? `person ${person.value.key}` : undefined),
  read: typed,
  start: () => formOf(person.value!),
  write,
})

const list = (text: string) =>
  text
    .split(',')
    .map((x) => x.trim())
    .filter(Boolean)
const changes = computed<Change[]>(() => {
  const p = person.value
  if (!p) return []
  const all: Change[] = []
  const set = (field: string, before: unknown, value: unknown) => {
    if (JSON.stringify(before) !== JSON.stringify(value))
      all.push({ op: 'set', kind: 'person', key: p.key, field, value })
  }
  set('name', p.name, form.name.trim())
  set('roles', p.roles ?? [], list(form.roles))
  set('hoursPerDay', p.hoursPerDay || 8, form.hours)
  set('weekdays', p.weekdays?.length ? p.weekdays : [1, 2, 3, 4, 5], [...form.weekdays].sort())
  set('openSeat', !!p.openSeat, form.openSeat)
  set('calendar', p.calendar ?? '', form.calendar.trim())
  set('daysOff', p.daysOff ?? [], daysOff.value)
  return all
})

function addDayOff(): void {
  const made: DayOff = { from: off.from, to: off.to || off.from }
  if (off.name.trim()) made.name = off.name.trim()
  daysOff.value = [...daysOff.value, made].sort((a, b) => a.from.localeCompare(b.from))
  Object.assign(off, { from: '', to: '', name: '' })
}

async function save(): Promise<void> {
  if (off.from) addDayOff()
  const only = changes.value.length === 1 && changes.value[0].field === 'daysOff'
  const label = only ? `Days off of ${form.name}` : `Person ${form.name}`
  if (await store.apply(label, changes.value)) {
    draft.saved()
    visible.value = false
  }
}
const show = async (body: Parameters<typeof proposals.propose>[0]) => {
  if (await proposals.propose(body)) visible.value = false
}
async function read(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const text = await input.files?.[0]?.text()
  input.value = ''
  if (text !== undefined) await show({ do: 'read-calendar', text, person: props.person })
}
</script>

<template>
  <Dialog v-model:visible="visible" modal :header="person?.name" :style="{ width: '560px' }">
    <form v-if="person" class="form" @submit.prevent="save">
      <DraftLine :draft="draft" />
      <div class="row">
        <div class="field wide">
          <label for="p-name">Name</label>
          <input
            id="p-name"
            v-model="form.name"
            class="in"
            maxlength="120"
            required
            :disabled="!may('name')"
          />
        </div>
        <div class="field wide">
          <label for="p-roles">Roles</label>
          <RolesField
            id="p-roles"
            v-model="form.roles"
            placeholder="as firmware, lead"
            :disabled="!may('roles')"
          />
        </div>
        <div class="field">
          <label for="p-hours">Hours a day</label>
          <input
            id="p-hours"
            v-model.number="form.hours"
            class="in number"
            type="number"
            min="0.5"
            max="24"
            step="0.5"
            required
            :disabled="!may('hoursPerDay')"
          />
        </div>
      </div>
      <fieldset class="days" :disabled="!may('weekdays')">
        <legend class="quiet">Works on</legend>
        <label v-for="(d, i) in dayNames" :key="d" class="check">
          <input v-model="form.weekdays" type="checkbox" :value="i + 1" /> {{ d }}
        </label>
        <label class="check seat"
          ><input v-model="form.openSeat" type="checkbox" :disabled="!may('openSeat')" /> open seat</label
        >
      </fieldset>
      <h2>Days off</h2>
      <p v-if="!daysOff.length" class="quiet">None.</p>
      <ul class="off">
        <li v-for="(d, i) in daysOff" :key="i">
          <DateField
            v-model="d.from"
            :aria-label="`First day off, ${i + 1}`"
            required
            :disabled="!may('daysOff')"
          />
          <span class="quiet">to</span>
          <DateField
            v-model="d.to"
            :aria-label="`Last day off, ${i + 1}`"
            required
            :min="d.from"
            :disabled="!may('daysOff')"
          />
          <span class="what">{{ d.name }} <span v-if="d.uid" class="tag">from the calendar</span></span>
          <button
            v-if="may('daysOff')"
            type="button"
            class="round"
            :aria-label="`Remove the days off from ${d.from}`"
            @click="daysOff = daysOff.filter((_, j) => j !== i)"
          >
            <i class="pi pi-times" aria-hidden="true" />
          </button>
        </li>
      </ul>
      <div v-if="may('daysOff')" class="row">
        <DateField v-model="off.from" aria-label="First day off" autofocus />
        <span class="quiet">to</span>
        <DateField v-model="off.to" aria-label="Last day off" :min="off.from" />
        <input
          v-model="off.name"
          class="in what"
          placeholder="what for, if it matters"
          aria-label="What for"
          maxlength="80"
        />
        <Button type="button" size="small" outlined label="Add" :disabled="!off.from" @click="addDayOff" />
      </div>
      <div class="row">
        <div class="field wide">
          <label for="p-calendar">Address of a calendar feed with days off</label>
          <input
            id="p-calendar"
            v-model="form.calendar"
            class="in"
            placeholder="https://…/calendar.ics"
            :disabled="!may('calendar')"
          />
        </div>
        <template v-if="may('daysOff')">
          <Button
            type="button"
            size="small"
            outlined
            label="Refresh…"
            :disabled="!person.calendar || !!changes.length"
            @click="show({ do: 'fetch-calendars', person: person.key })"
          />
          <Button type="button" size="small" outlined label="From a file…" @click="file?.click()" />
          <input
            ref="file"
            type="file"
            accept=".ics,text/calendar"
            hidden
            aria-label="iCalendar file"
            @change="read"
          />
        </template>
      </div>
      <div class="buttons">
        <Button
          v-if="store.may({ op: 'remove', kind: 'person' })"
          text
          type="button"
          label="Remove…"
          @click="show({ do: 'remove', ref: { kind: 'person', key: person.key } })"
        />
        <span class="gap" />
        <Button text type="button" label="Cancel" @click="visible = false" />
        <Button v-if="may('daysOff')" type="submit" label="Keep" :disabled="!changes.length && !off.from" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
p {
  margin: 0;
}

.days {
  display: flex;
  gap: 12px;
  margin: 0;
  padding: 0;
  border: 0;
}

.seat {
  margin-left: auto;
}

.off {
  display: grid;
  gap: 4px;
  max-height: 190px;
  overflow: auto;
  margin: 0;
  padding: 0;
  list-style: none;
}

.off li {
  display: flex;
  gap: 8px;
  align-items: center;
}

.what {
  flex: 1;
}

.row {
  align-items: center;
}

.row:has(.field) {
  align-items: end;
}
</style>
