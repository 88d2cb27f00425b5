<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, reactive, ref, watch } from 'vue'
import { answer, client } from '@/api/client'
import type { Free } from '@/api/types'
import { amount, count, percent } from '@/ui/format'
import { useAttempt } from '@/ui/useAttempt'
import { shortDate, toDate } from '@/ui/dates'
import { useProgram } from '@/line/program'
import { rolesKnown } from '@/line/roles'
import DateField from '@/ui/DateField.vue'

/** Who with a role has free days in a range of dates. */
const visible = defineModel<boolean>('visible', { required: true })
const store = useProgram()
const { failure, busy, attempt } = useAttempt()
const form = reactive({ role: '', team: '', from: '', to: '', days: 1, open: false, idle: false })
const found = ref<Free[]>()
const later = (days: number) => toDate(store.todayDay + days)
watch(visible, (now) => {
  if (!now) return
  found.value = undefined
  if (!form.from) Object.assign(form, { from: store.today, to: later(28) })
})
const roles = computed(() => rolesKnown(store.program))

/** The days, in words: "2 – 12 Mar, 22 Mar – 2 Apr (50 %)". */
const whenOf = (f: Free) =>
  f.when
    .map((g) => {
      const days =
        g.from === g.to
          ? shortDate(g.from, store.todayDay)
          : `${shortDate(g.from, store.todayDay)} – ${shortDate(g.to, store.todayDay)}`
      return g.left > 0.995 ? days : `${days} (${percent(g.left)})`
    })
    .join(', ')

const search = () =>
  attempt(async () => {
    const { role, team, from, to, days, open, idle } = form
    const query = { role: role || undefined, team: team || undefined, from, to, days, open, idle }
    found.value = await answer(
      client.GET('/api/v1/programs/{id}/free', { params: { path: { id: store.id }, query } }),
    )
  })
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Who has time?" :style="{ width: '860px' }">
    <form class="row" @submit.prevent="search">
      <div class="field">
        <label for="f-role">Role</label>
        <select id="f-role" v-model="form.role" class="in" autofocus>
          <option value="">any</option>
          <option v-for="r in roles" :key="r">{{ r }}</option>
        </select>
      </div>
      <div class="field">
        <label for="f-team">Team</label>
        <select id="f-team" v-model="form.team" class="in">
          <option value="">any</option>
          <option v-for="t in store.program.teams" :key="t.key" :value="t.key">{{ t.name }}</option>
        </select>
      </div>
      <div class="field">
        <label for="f-from">Between</label>
        <DateField id="f-from" v-model="form.from" required />
      </div>
      <div class="field">
        <label for="f-to">and</label>
        <DateField id="f-to" v-model="form.to" required :min="form.from" />
      </div>
      <div class="field">
        <label for="f-days">Free days</label>
        <input id="f-days" v-model.number="form.days" class="in number" type="number" min="0" step="0.5" />
      </div>
      <label class="check"><input v-model="form.open" type="checkbox" /> open seats</label>
      <label class="check"
        ><input v-model="form.idle" type="checkbox" /> time that a team holds and has nothing placed for
        counts as free</label
      >
      <Button type="submit" label="Find" :disabled="busy" />
    </form>
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    <p v-if="found" role="status" class="quiet">
      {{ found.length ? count(found.length, 'person has', 'people have') : 'Nobody has' }}
      {{ count(form.days, 'free day') }} or more.
    </p>
    <table v-if="found?.length" class="table">
      <thead>
        <tr>
          <th>Name</th>
          <th>Roles</th>
          <th>Teams</th>
          <th class="n">Free days</th>
          <th class="n">of working days</th>
          <th>When</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="f in found.slice(0, 100)" :key="f.person">
          <td>{{ f.name }}</td>
          <td>{{ f.roles.join(', ') }}</td>
          <td>{{ f.teams.map((t) => store.teams.get(t)?.name ?? t).join(', ') || 'none' }}</td>
          <td class="n">
            <b>{{ amount(f.days) }}</b>
          </td>
          <td class="n">{{ f.working }}</td>
          <td class="small">{{ whenOf(f) }}</td>
        </tr>
      </tbody>
    </table>
  </Dialog>
</template>
