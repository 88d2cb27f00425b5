<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, watch } from 'vue'
import type { Change, Team } from '@/api/types'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import MemberList from './MemberList.vue'
import { shortDate } from '@/ui/dates'
import { amount } from '@/ui/format'
import DateField from '@/ui/DateField.vue'

const props = defineProps<{ team: Team }>()
const emit = defineEmits<{ gone: [] }>()
const store = useProgram()
const proposals = useProposals()
const may = (field: string) => store.may({ op: 'set', kind: 'team', key: props.team.key, field })
const form = reactive({
  name: '',
  velocity: '' as number | '',
  days: '' as number | '',
  focus: '' as number | '',
  fillTo: '' as number | '',
  cadence: '',
  from: '',
})
const inPercent = (n?: number) => (n === undefined ? '' : Math.round(n * 1000) / 10)

const valuesOf = (t: Team): typeof form => ({
  name: t.name,
  velocity: t.velocity ?? '',
  days: t.agreedDays ?? '',
  focus: inPercent(t.focus),
  fillTo: inPercent(t.fillTo),
  cadence: t.cadence ?? '',
  from: store.today,
})
// What changes is shown; what is typed into the other fields stays.
watch(
  () => props.team,
  (team, before) => {
    const now = valuesOf(team)
    const was = before && valuesOf(before)
    const changed = Object.entries(now).filter(
      ([field, value]) => !was || was[field as keyof typeof was] !== value,
    )
    Object.assign(form, Object.fromEntries(changed))
  },
  { immediate: true },
)

const changes = computed<Change[]>(() => {
  const t = props.team
  const set = (field: string, value: unknown): Change => ({
    op: 'set',
    kind: 'team',
    key: t.key,
    field,
    value,
  })
  const share = (n: number | '') => (n === '' ? null : n / 100)
  const list: Change[] = []
  if (form.name.trim() !== t.name) list.push(set('name', form.name.trim()))
  if (form.focus !== inPercent(t.focus)) list.push(set('focus', share(form.focus)))
  if (form.fillTo !== inPercent(t.fillTo)) list.push(set('fillTo', share(form.fillTo)))
  return list
})
/** What the agreed velocity is of, in a sentence. */
const agreedFor = computed(() => {
  const t = props.team
  if (t.velocity === undefined) return 'Nothing is agreed: capacity follows from what was measured.'
  const on = t.agreedOn ? `Agreed on ${shortDate(t.agreedOn, store.todayDay)}: what` : 'What'
  const whom = t.agreedDays
    ? `a team of ${amount(t.agreedDays)} member-days a week`
    : 'the complete team, all who are in it at its largest,'
  return `${on} ${whom} completes in an iteration of the cadence’s length with nobody away.`
})
const save = () => store.apply(`Team ${form.name.trim()}`, changes.value)
const follow = () =>
  proposals.propose({ do: 'follow-cadence', team: props.team.key, cadence: form.cadence, from: form.from })
const remove = () =>
  proposals.propose(
    { do: 'remove', ref: { kind: 'team', key: props.team.key } },
    { agreed: () => emit('gone') },
  )
/** Notes the velocity with the team of today, or the days a week that were typed. */
const agreeOn = () =>
  store.mean({
    do: 'agree-velocity',
    team: props.team.key,
    velocity: form.velocity === '' ? undefined : form.velocity,
    days: form.days === '' || form.days === props.team.agreedDays ? undefined : form.days,
  })
</script>

<template>
  <section class="panel" :aria-label="team.name">
    <form class="form" @submit.prevent="save">
      <div class="row">
        <div class="field wide">
          <label for="tp-name">Name</label>
          <input
            id="tp-name"
            v-model="form.name"
            class="in"
            maxlength="80"
            required
            :disabled="!may('name')"
          />
        </div>
        <div v-if="team.unit !== 'points'" class="field">
          <label for="tp-focus">Focus, % of time</label>
          <input
            id="tp-focus"
            v-model.number="form.focus"
            class="in number"
            type="number"
            min="1"
            max="100"
            step="any"
            placeholder="100"
            :disabled="!may('focus')"
          />
        </div>
        <div class="field">
          <label for="tp-fill">Drafts fill to, %</label>
          <input
            id="tp-fill"
            v-model.number="form.fillTo"
            class="in number"
            type="number"
            min="1"
            max="100"
            step="any"
            :placeholder="String(Math.round(store.program.settings.fillTo * 100))"
            :disabled="!may('fillTo')"
          />
        </div>
        <Button v-if="may('fillTo')" type="submit" label="Keep" :disabled="!changes.length" />
      </div>
    </form>
    <form class="form" aria-label="Agreed velocity" @submit.prevent="agreeOn">
      <div class="row">
        <div class="field">
          <label for="tp-velocity">Agreed velocity, {{ team.unit }}</label>
          <input
            id="tp-velocity"
            v-model.number="form.velocity"
            class="in"
            type="number"
            min="0"
            step="any"
            placeholder="none: measured"
            :disabled="!may('velocity')"
          />
        </div>
        <div class="field">
          <label for="tp-days">for member-days a week</label>
          <input
            id="tp-days"
            v-model.number="form.days"
            class="in"
            type="number"
            min="0.1"
            step="any"
            placeholder="of the team today"
            :disabled="!may('velocity') || form.velocity === ''"
          />
        </div>
        <Button
          v-if="may('velocity')"
          type="submit"
          outlined
          label="Agree"
          :disabled="form.velocity === (team.velocity ?? '') && form.days === (team.agreedDays ?? '')"
        />
      </div>
      <p class="quiet small">
        {{ agreedFor }}
        {{
          team.unit === 'points'
            ? 'Who joins later adds to it, who leaves takes away; days off and holidays do too.'
            : 'With members, capacity is their time × focus instead.'
        }}
      </p>
    </form>
    <form v-if="may('cadence')" class="row" @submit.prevent="follow">
      <div class="field">
        <label for="tp-cadence">Follows the cadence</label>
        <select id="tp-cadence" v-model="form.cadence" class="in" required>
          <option v-for="c in store.program.cadences" :key="c.key" :value="c.key">
            {{ c.name || c.key }}
          </option>
        </select>
      </div>
      <div class="field">
        <label for="tp-from">from</label>
        <DateField id="tp-from" v-model="form.from" required />
      </div>
      <Button
        type="submit"
        outlined
        label="Change the cadence…"
        :disabled="!form.cadence || form.cadence === team.cadence"
      />
      <span class="wide" />
      <Button type="button" text label="Remove the team…" @click="remove" />
    </form>
    <MemberList :team="team" :may="may('members')" />
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 16px;
  align-content: start;
  overflow: auto;
  padding: 16px 24px;
}

p {
  margin: 0;
}
</style>
