<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, ref, watch } from 'vue'
import type { Holiday } from '@/api/types'
import { shortDate } from '@/ui/dates'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import DateField from '@/ui/DateField.vue'

const store = useProgram()
const proposals = useProposals()
const may = computed(() => store.may({ op: 'set', kind: 'program', field: 'holidays' }))
const adding = ref(false)
const form = reactive({ date: '', name: '', teams: [] as string[] })
const file = ref<HTMLInputElement>()
const feed = ref('')
const feedNow = computed(() => store.program.settings.holidayCalendar ?? '')
watch(feedNow, (address) => (feed.value = address), { immediate: true })
const keepFeed = () =>
  store.apply('Calendar of the holidays', [
    { op: 'set', kind: 'program', field: 'holidayCalendar', value: feed.value.trim() },
  ])
const coming = computed(() => (store.program.holidays ?? []).map((h, i) => ({ ...h, i })))

const save = (holidays: Holiday[], label: string) =>
  store.apply(label, [{ op: 'set', kind: 'program', field: 'holidays', value: holidays }])

async function add(): Promise<void> {
  const holiday: Holiday = { date: form.date, name: form.name.trim() }
  if (form.teams.length) holiday.teams = form.teams
  const all = [...(store.program.holidays ?? []), holiday].sort((a, b) => a.date.localeCompare(b.date))
  if (await save(all, `Holiday ${holiday.name}`)) Object.assign(form, { date: '', name: '', teams: [] })
}

const remove = (i: number) =>
  save(
    (store.program.holidays ?? []).filter((_, j) => j !== i),
    `Remove the holiday ${store.program.holidays![i].name}`,
  )

async function read(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const text = await input.files?.[0]?.text()
  input.value = ''
  if (text !== undefined) await proposals.propose({ do: 'read-calendar', text })
}
const teamNames = (keys: string[] | undefined) => (keys?.length ? keys.join(', ') : 'all teams')
</script>

<template>
  <section aria-label="Holidays">
    <header class="titled">
      <h2>Holidays</h2>
      <span v-if="may">
        <Button size="small" text icon="pi pi-plus" label="Add" @click="adding = !adding" />
        <Button
          size="small"
          text
          icon="pi pi-upload"
          label="From a file"
          title="An iCalendar file"
          @click="file?.click()"
        />
      </span>
      <input
        ref="file"
        type="file"
        accept=".ics,text/calendar"
        hidden
        aria-label="iCalendar file"
        @change="read"
      />
    </header>
    <form v-if="adding" class="row add" @submit.prevent="add">
      <DateField v-model="form.date" aria-label="Date" required />
      <input
        v-model="form.name"
        class="in name"
        placeholder="Name"
        aria-label="Name of the holiday"
        maxlength="80"
        required
      />
      <select v-model="form.teams" class="in teams" multiple aria-label="Teams; none chosen: all">
        <option v-for="t in store.program.teams" :key="t.key" :value="t.key">{{ t.name }}</option>
      </select>
      <Button type="submit" size="small" label="Add" />
    </form>
    <p v-if="!coming.length" class="quiet">Days on which nobody works, or some teams do not.</p>
    <ul class="plain">
      <li v-for="h in coming" :key="h.i">
        <span class="when">{{ shortDate(h.date, store.todayDay) }}</span>
        <span class="what"
          >{{ h.name }} <span class="quiet small">{{ teamNames(h.teams) }}</span></span
        >
        <button v-if="may" class="round" :aria-label="`Remove ${h.name}`" @click="remove(h.i)">
          <i class="pi pi-times" aria-hidden="true" />
        </button>
      </li>
    </ul>
    <form v-if="may" class="row feed" @submit.prevent="keepFeed">
      <div class="field wide">
        <label for="h-feed">Address of a calendar feed with holidays</label>
        <input id="h-feed" v-model="feed" class="in" placeholder="https://…/holidays.ics" />
      </div>
      <Button v-if="feed !== feedNow" type="submit" size="small" outlined label="Keep" />
      <Button
        v-else
        type="button"
        size="small"
        outlined
        label="Refresh…"
        title="With everybody's days off"
        :disabled="!feedNow || proposals.working"
        @click="proposals.propose({ do: 'fetch-calendars' })"
      />
    </form>
  </section>
</template>

<style scoped>
li {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}

.when {
  min-width: 76px;
}

.what {
  flex: 1;
}

.add {
  gap: 6px;
  margin-bottom: 6px;
}

.name {
  width: 130px;
}

.teams {
  height: 52px;
}
</style>
