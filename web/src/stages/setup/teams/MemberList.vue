<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive } from 'vue'
import type { Member, Team } from '@/api/types'
import { shortDate } from '@/ui/dates'
import { percent } from '@/ui/format'
import { changed, inTurn } from '@/ui/inTurn'
import RolesField from '@/line/RolesField.vue'
import { useProgram } from '@/line/program'
import { useSetUp } from '@/stages/setup/setup'
import { useProposals } from '@/line/proposals'
import DateField from '@/ui/DateField.vue'

/** Members and open seats of a team, with their shares. */
const props = defineProps<{ team: Team; may: boolean }>()
const store = useProgram()
const setUp = useSetUp()
const proposals = useProposals()
const people = computed(() => new Map((store.program.people ?? []).map((p) => [p.key, p])))
const members = computed(() => props.team.members ?? [])
const form = reactive({ person: '', share: 100 as number, from: '', to: '', roles: '' })

const left = (person: string) => setUp.committed.get(person)?.left ?? 1
/** Offers what is left of a person. */
function offer(): void {
  form.share = Math.max(0, Math.round(left(form.person) * 100)) || 100
}

const turn = inTurn()
/** Shows what other members would do to capacity; they are set when somebody agrees. */
const save = (list: (now: Member[]) => Member[], agreed?: () => void) =>
  turn(() =>
    proposals.propose(
      { do: 'set-members', team: props.team.key, members: list(members.value) },
      { agreed, atOnce: true },
    ),
  )

function add(): void {
  const made: Member = { person: form.person, share: form.share / 100 }
  const roles = form.roles
    .split(',')
    .map((r) => r.trim())
    .filter(Boolean)
  if (roles.length) made.roles = roles
  if (form.from) made.from = form.from
  if (form.to) made.to = form.to
  void save(
    (now) => [...now, made],
    () => Object.assign(form, { person: '', share: 100, from: '', to: '', roles: '' }),
  )
}

function change(i: number, field: 'share' | 'from' | 'to', text: string): void {
  const seen = members.value[i]
  const next = (m: Member): Member =>
    field === 'share' ? { ...m, share: Number(text) / 100 } : { ...m, [field]: text || undefined }
  void save((now) => changed(now, seen, i, next))
}
function remove(i: number): void {
  const seen = members.value[i]
  void save((now) => changed(now, seen, i))
}
const rolesOf = (m: Member) =>
  (m.roles?.length ? m.roles : (people.value.get(m.person)?.roles ?? [])).join(', ')
const sum = computed(() => members.value.reduce((total, m) => total + m.share, 0))
</script>

<template>
  <section aria-label="Members">
    <h2>Members and open seats</h2>
    <p v-if="!members.length" class="quiet">
      Nobody yet. Until somebody is, the team counts as one who works Monday to Friday.
    </p>
    <table v-else class="table">
      <thead>
        <tr>
          <th>Name</th>
          <th>Roles</th>
          <th>Share, %</th>
          <th>From</th>
          <th>To</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(m, i) in members" :key="m.person + m.from">
          <td>
            {{ people.get(m.person)?.name ?? m.person }}
            <span v-if="people.get(m.person)?.openSeat" class="tag">open seat</span>
            <span v-if="setUp.committed.get(m.person)?.tooMuch?.length" class="flag small">
              {{ percent(setUp.committed.get(m.person)!.most) }} over all teams
            </span>
          </td>
          <td>{{ rolesOf(m) }}</td>
          <template v-if="may">
            <td>
              <input
                v-typing
                class="in number"
                type="number"
                min="0"
                max="100"
                :value="Math.round(m.share * 100)"
                :aria-label="`Share of ${people.get(m.person)?.name}`"
                @change="change(i, 'share', ($event.target as HTMLInputElement).value)"
              />
            </td>
            <td>
              <DateField
                :model-value="m.from"
                :aria-label="`First day of ${people.get(m.person)?.name}`"
                @update:model-value="change(i, 'from', $event)"
              />
            </td>
            <td>
              <DateField
                :model-value="m.to"
                :aria-label="`Last day of ${people.get(m.person)?.name}`"
                @update:model-value="change(i, 'to', $event)"
              />
            </td>
            <td>
              <button
                class="round"
                :aria-label="`Take ${people.get(m.person)?.name} out of the team`"
                @click="remove(i)"
              >
                <i class="pi pi-times" aria-hidden="true" />
              </button>
            </td>
          </template>
          <template v-else>
            <td>{{ percent(m.share) }}</td>
            <td>{{ m.from ? shortDate(m.from, store.todayDay) : '' }}</td>
            <td>{{ m.to ? shortDate(m.to, store.todayDay) : '' }}</td>
            <td></td>
          </template>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <td class="quiet">Together</td>
          <td></td>
          <td class="quiet">{{ Math.round(sum * 100) }}</td>
          <td colspan="3"></td>
        </tr>
      </tfoot>
    </table>
    <form v-if="may" class="row add" @submit.prevent="add">
      <div class="field wide">
        <label for="m-person">Add a member</label>
        <select id="m-person" v-model="form.person" class="in" required @change="offer">
          <option value="">choose a person or open seat</option>
          <option v-for="p in store.program.people" :key="p.key" :value="p.key">
            {{ p.name }}, {{ percent(Math.max(0, left(p.key))) }} left
          </option>
        </select>
      </div>
      <div class="field">
        <label for="m-share">Share, %</label>
        <input
          id="m-share"
          v-model.number="form.share"
          class="in number"
          type="number"
          min="0"
          max="100"
          required
        />
      </div>
      <div class="field">
        <label for="m-from">From</label>
        <DateField id="m-from" v-model="form.from" />
      </div>
      <div class="field">
        <label for="m-to">To</label>
        <DateField id="m-to" v-model="form.to" />
      </div>
      <div class="field">
        <label for="m-roles">Roles here, if others</label>
        <RolesField id="m-roles" v-model="form.roles" placeholder="as the person’s" />
      </div>
      <Button type="submit" outlined label="Add" />
    </form>
  </section>
</template>

<style scoped>
h2 {
  font-size: 16px;
  margin-bottom: 6px;
}

.add {
  margin-top: 12px;
}
</style>
