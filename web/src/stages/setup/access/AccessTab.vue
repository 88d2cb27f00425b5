<script setup lang="ts">
import Button from 'primevue/button'
import { computed, onMounted, reactive, ref } from 'vue'
import { answer, client } from '@/api/client'
import type { Belonging, Mine, Token } from '@/api/types'
import { shortDate, toDate } from '@/ui/dates'
import { useAttempt } from '@/ui/useAttempt'
import { useProgram } from '@/line/program'
import DateField from '@/ui/DateField.vue'
import LinkTable from './LinkTable.vue'

type Role = Mine['role']
const store = useProgram()
const { failure, busy, attempt } = useAttempt()
const roles: Role[] = ['administrator', 'program manager', 'team lead', 'member', 'viewer']
const rights: Record<Role, string> = {
  administrator: 'everything, and who belongs to the program',
  'program manager': 'every change to the program',
  'team lead': 'their own teams’ iterations, velocity and items, and what is agreed on needs',
  member: 'items assigned to them, and their own days off',
  viewer: 'looks, and changes nothing',
}
const administrates = computed(() => store.mine.role === 'administrator')
const members = ref<Belonging[]>([])
const tokens = ref<Token[]>([])
const form = reactive({ login: '', role: 'viewer' as Role, person: '' })
const token = reactive({ name: '', role: 'viewer' as Role, expires: '', made: '' })
const path = computed(() => ({ id: store.id }))
const people = computed(() => store.program.people ?? [])
const open = computed(() => roles.slice(roles.indexOf(store.mine.role)))

const load = async () => {
  const params = { path: path.value }
  tokens.value = await answer(client.GET('/api/v1/programs/{id}/tokens', { params }))
  if (administrates.value)
    members.value = await answer(client.GET('/api/v1/programs/{id}/members', { params }))
}
onMounted(() => {
  token.expires = toDate(store.todayDay + 90)
  return attempt(load)
})

const save = (login: string, role: Role, person: string) =>
  attempt(async () => {
    const body = { login: login.trim(), role, person: person || undefined }
    await answer(client.PUT('/api/v1/programs/{id}/members', { params: { path: path.value }, body }))
    await load()
  })
async function add(): Promise<void> {
  if (await save(form.login, form.role, form.person)) Object.assign(form, { login: '', person: '' })
}
const remove = (m: Belonging) =>
  attempt(async () => {
    const params = { path: { ...path.value, account: m.accountId } }
    await answer(client.DELETE('/api/v1/programs/{id}/members/{account}', { params }))
    await load()
  })
const makeToken = () =>
  attempt(async () => {
    const { name, role, expires } = token
    const body = { name, role, expires }
    token.made = (
      await answer(client.POST('/api/v1/programs/{id}/tokens', { params: { path: path.value }, body }))
    ).token
    token.name = ''
    await load()
  })
const endToken = (t: Token) =>
  attempt(async () => {
    const params = { path: { ...path.value, token: t.id } }
    await answer(client.DELETE('/api/v1/programs/{id}/tokens/{token}', { params }))
    await load()
  })
const value = (event: Event) => (event.target as HTMLSelectElement).value
</script>

<template>
  <div class="access">
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    <h2>Who belongs to the program</h2>
    <p>
      You are {{ store.mine.role }}: <span class="quiet">{{ rights[store.mine.role] }}.</span>
    </p>
    <template v-if="administrates">
      <table class="table">
        <thead>
          <tr>
            <th>Name</th>
            <th>Sign-in name</th>
            <th>Role</th>
            <th>Is, of the program’s people</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="m in members" :key="m.accountId">
            <td>{{ m.name }}</td>
            <td>{{ m.login }}</td>
            <td>
              <select
                class="in"
                :aria-label="`Role of ${m.name}`"
                :value="m.role"
                @change="save(m.login, value($event) as Role, m.person ?? '')"
              >
                <option v-for="r in roles" :key="r">{{ r }}</option>
              </select>
            </td>
            <td>
              <select
                class="in"
                :aria-label="`Who ${m.name} is`"
                :value="m.person ?? ''"
                @change="save(m.login, m.role as Role, value($event))"
              >
                <option value="">nobody</option>
                <option v-for="p in people" :key="p.key" :value="p.key">{{ p.name }}</option>
              </select>
            </td>
            <td class="n">
              <button class="round" :aria-label="`End ${m.name}’s belonging`" @click="remove(m)">
                <i class="pi pi-times" aria-hidden="true" />
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <form class="row add" @submit.prevent="add">
        <div class="field">
          <label for="ac-login">Add by sign-in name</label>
          <input id="ac-login" v-model="form.login" class="in" autocomplete="off" required />
        </div>
        <div class="field">
          <label for="ac-role">Role</label>
          <select id="ac-role" v-model="form.role" class="in">
            <option v-for="r in roles" :key="r">{{ r }}</option>
          </select>
        </div>
        <div class="field">
          <label for="ac-person">Is</label>
          <select id="ac-person" v-model="form.person" class="in">
            <option value="">nobody of the program</option>
            <option v-for="p in people" :key="p.key" :value="p.key">{{ p.name }}</option>
          </select>
        </div>
        <Button type="submit" outlined label="Add" :disabled="busy" />
      </form>
    </template>
    <dl>
      <template v-for="r in roles" :key="r">
        <dt>{{ r }}</dt>
        <dd class="quiet">{{ rights[r] }}</dd>
      </template>
    </dl>
    <h2>Your tokens</h2>
    <p class="quiet">
      A token lets a program of your own use the interface in your name, with at most your role here, until it
      expires. It is shown once.
    </p>
    <p v-if="token.made" class="made" role="status">
      Copy it now: <code>{{ token.made }}</code>
    </p>
    <table v-if="tokens.length" class="table">
      <thead>
        <tr>
          <th>For</th>
          <th>Role</th>
          <th>Until</th>
          <th>Last used</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="t in tokens" :key="t.id">
          <td>{{ t.name }}</td>
          <td>{{ t.role }}</td>
          <td>{{ shortDate(t.expiresAt.slice(0, 10), store.todayDay) }}</td>
          <td>{{ t.usedAt ? shortDate(t.usedAt.slice(0, 10), store.todayDay) : 'never' }}</td>
          <td class="n">
            <button class="round" :aria-label="`End the token for ${t.name}`" @click="endToken(t)">
              <i class="pi pi-times" aria-hidden="true" />
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <form class="row add" @submit.prevent="makeToken">
      <div class="field">
        <label for="tk-name">What it is for</label>
        <input id="tk-name" v-model="token.name" class="in" maxlength="120" required />
      </div>
      <div class="field">
        <label for="tk-role">Role</label>
        <select id="tk-role" v-model="token.role" class="in">
          <option v-for="r in open" :key="r">{{ r }}</option>
        </select>
      </div>
      <div class="field">
        <label for="tk-until">Last day</label>
        <DateField id="tk-until" v-model="token.expires" required />
      </div>
      <Button type="submit" outlined label="Make a token" :disabled="busy" />
    </form>
    <LinkTable />
  </div>
</template>

<style scoped>
.access {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 16px 24px 30px;
}

.access > * {
  max-width: 900px;
}

h2 {
  font-size: 17px;
  margin-bottom: 6px;
}

.add {
  margin: 12px 0 20px;
}

dl {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 3px 12px;
  margin: 12px 0 24px;
}

dd {
  margin: 0;
}

.made {
  padding: 8px 14px;
  background: var(--good-soft);
}

code {
  user-select: all;
  overflow-wrap: anywhere;
}
</style>
