<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, watch } from 'vue'
import type { Change, Team } from '@/api/types'
import { useProgram } from '@/line/program'
import { useSetUp } from '@/stages/setup/setup'
import MemberList from './MemberList.vue'
import DateField from '@/ui/DateField.vue'

const props = defineProps<{ team: Team }>()
const emit = defineEmits<{ gone: [] }>()
const store = useProgram()
const setUp = useSetUp()
const may = (field: string) => store.may({ op: 'set', kind: 'team', key: props.team.key, field })
const form = reactive({
  name: '',
  velocity: '' as number | '',
  focus: '' as number | '',
  fillTo: '' as number | '',
  cadence: '',
  from: '',
})
const inPercent = (n?: number) => (n === undefined ? '' : Math.round(n * 1000) / 10)

watch(
  () => props.team,
  (t) =>
    Object.assign(form, {
      name: t.name,
      velocity: t.velocity ?? '',
      focus: inPercent(t.focus),
      fillTo: inPercent(t.fillTo),
      cadence: t.cadence ?? '',
      from: store.today,
    }),
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
  if (form.velocity !== (t.velocity ?? ''))
    list.push(set('velocity', form.velocity === '' ? null : form.velocity))
  if (form.focus !== inPercent(t.focus)) list.push(set('focus', share(form.focus)))
  if (form.fillTo !== inPercent(t.fillTo)) list.push(set('fillTo', share(form.fillTo)))
  return list
})
const save = () => store.apply(`Team ${form.name.trim()}`, changes.value)
const follow = () =>
  setUp.propose({ do: 'follow-cadence', team: props.team.key, cadence: form.cadence, from: form.from })
async function remove(): Promise<void> {
  if (await setUp.propose({ do: 'remove', ref: { kind: 'team', key: props.team.key } })) emit('gone')
}
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
        <Button v-if="may('velocity')" type="submit" label="Keep" :disabled="!changes.length" />
      </div>
      <p class="quiet small">
        The agreed velocity is what the complete team completes in an iteration of the cadence’s length with
        nobody away;
        {{
          team.unit === 'points'
            ? 'capacity follows from it and from who is there'
            : 'with members, capacity is their time × focus instead'
        }}.
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
