<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Person } from '@/api/types'
import { dayNames, shortDate } from '@/ui/dates'
import { count, percent } from '@/ui/format'
import { useProgram } from '@/line/program'
import WordsDialog from '@/line/WordsDialog.vue'
import { useSetUp } from '@/stages/setup/setup'
import { useProposals } from '@/line/proposals'
import { useWanted } from '@/stages/setup/useWanted'
import AddPeople from './AddPeople.vue'
import FindPeople from './FindPeople.vue'
import PersonForm from './PersonForm.vue'

const store = useProgram()
const setUp = useSetUp()
const proposals = useProposals()
const may = computed(() => store.may({ op: 'add', kind: 'person' }))
const text = ref('')
const adding = ref(false)
const finding = ref(false)
const naming = ref(false)
const chosen = ref<Person>()
const open = ref(false)
useWanted({
  'add-people': () => (adding.value = true),
  'find-people': () => (finding.value = true),
  person: (key) => {
    chosen.value = store.program.people?.find((p) => p.key === key)
    open.value = true
  },
})

const shares = computed(() => {
  const map = new Map<string, string[]>()
  for (const t of store.program.teams ?? [])
    for (const m of t.members ?? []) {
      const dates = [
        m.from && `from ${shortDate(m.from, store.todayDay)}`,
        m.to && `to ${shortDate(m.to, store.todayDay)}`,
      ]
      const words = [t.key, percent(m.share), ...dates].filter(Boolean).join(' ')
      map.set(m.person, [...(map.get(m.person) ?? []), words])
    }
  return map
})
const rolesOf = (p: Person) => {
  const own = p.roles ?? []
  const inTeams = (store.program.teams ?? []).flatMap((t) =>
    (t.members ?? []).filter((m) => m.person === p.key).flatMap((m) => m.roles ?? []),
  )
  return [...new Set([...own, ...inTeams])].join(', ')
}

/** Long lists are cut; typing narrows them. */
const shown = 250
const found = computed(() => {
  const words = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  return (store.program.people ?? []).filter((p) => {
    const all = `${p.name} ${rolesOf(p)} ${(shares.value.get(p.key) ?? []).join(' ')}`.toLowerCase()
    return words.every((w) => all.includes(w))
  })
})
const weekdays = (p: Person) => {
  const list = [...(p.weekdays ?? [])].sort()
  return !list.length || list.join() === '1,2,3,4,5'
    ? 'Mon – Fri'
    : list.map((d) => dayNames[d - 1]).join(' ')
}
const coming = (p: Person) => (p.daysOff ?? []).filter((d) => d.to >= store.today)

function edit(person: Person): void {
  chosen.value = person
  open.value = true
}
const mine = computed(() => store.program.people?.find((p) => p.key === store.mine.person))
</script>

<template>
  <div class="people">
    <div class="row tools">
      <input
        v-model="text"
        class="in filter"
        type="search"
        placeholder="Name, role or team"
        aria-label="Filter people"
      />
      <span class="quiet">{{ count(found.length, 'person', 'people') }}</span>
      <span class="wide" />
      <Button v-if="mine" size="small" outlined label="Your days off" @click="edit(mine)" />
      <Button
        v-if="store.may({ op: 'set', kind: 'program', field: 'roles' })"
        size="small"
        outlined
        label="Roles…"
        @click="naming = true"
      />
      <Button size="small" outlined icon="pi pi-search" label="Who has time?" @click="finding = true" />
      <Button
        v-if="may"
        size="small"
        outlined
        icon="pi pi-calendar"
        label="Refresh from calendars…"
        :disabled="proposals.working"
        @click="proposals.propose({ do: 'fetch-calendars' })"
      />
      <Button
        v-if="may"
        data-new
        title="Add people (N)"
        size="small"
        icon="pi pi-plus"
        label="Add people"
        @click="adding = true"
      />
    </div>
    <p v-if="!store.program.people?.length" class="quiet">
      Nobody yet. Add several at once, a line each; open seats too.
    </p>
    <table v-else class="table">
      <thead>
        <tr>
          <th>Name</th>
          <th>Roles</th>
          <th>Shares</th>
          <th>Works</th>
          <th>Days off to come</th>
          <th class="n">Left over</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in found.slice(0, shown)" :key="p.key">
          <td>
            <button class="link" @click="edit(p)">{{ p.name }}</button>
            <span v-if="p.openSeat" class="tag">open seat</span>
          </td>
          <td>{{ rolesOf(p) }}</td>
          <td>
            {{ (shares.get(p.key) ?? []).join(' · ') || 'in no team' }}
            <div v-for="s in setUp.committed.get(p.key)?.tooMuch" :key="s.from" class="flag small">
              {{ percent(s.sum) }} in {{ s.held.map((h) => h.team).join(' and ') }},
              {{ s.from ? shortDate(s.from, store.todayDay) : 'from the beginning' }} to
              {{ s.to ? shortDate(s.to, store.todayDay) : 'no end' }}
            </div>
          </td>
          <td>{{ weekdays(p) }}, {{ p.hoursPerDay || 8 }} h</td>
          <td>
            <span v-for="d in coming(p).slice(0, 3)" :key="d.from" class="off">
              {{ shortDate(d.from, store.todayDay)
              }}<template v-if="d.to !== d.from"> – {{ shortDate(d.to, store.todayDay) }}</template>
            </span>
            <span v-if="coming(p).length > 3" class="quiet">and {{ coming(p).length - 3 }} more</span>
          </td>
          <td class="n">{{ percent(setUp.committed.get(p.key)?.left ?? 1) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="found.length > shown" class="quiet">
      and {{ found.length - shown }} more: type a name, role or team above to narrow the list.
    </p>
    <AddPeople v-model:visible="adding" />
    <FindPeople v-model:visible="finding" />
    <WordsDialog
      v-if="naming"
      field="roles"
      title="Roles"
      asks="What people do in teams"
      :example="'lead\nfirmware\ntesting'"
      kept="They are offered wherever a role is written, and templates take them along. People and items keep what they were given when a line goes."
      @close="naming = false"
    />
    <PersonForm v-model:visible="open" :person="chosen?.key" />
  </div>
</template>

<style scoped>
.people {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 10px 16px;
}

.tools {
  align-items: center;
  margin-bottom: 8px;
}

.filter {
  width: 240px;
}

.off {
  display: inline-block;
  margin-right: 10px;
  white-space: nowrap;
}

.tag {
  margin-left: 6px;
}
</style>
