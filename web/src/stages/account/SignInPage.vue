<script setup lang="ts">
import Button from 'primevue/button'
import { onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { SignInOptions } from '@/api/types'
import { useAttempt } from '@/ui/useAttempt'
import { useSession } from '@/line/session'

const session = useSession()
const route = useRoute()
const router = useRouter()
const { failure, busy, attempt } = useAttempt()
const options = ref<SignInOptions>()
const login = ref('')
const password = ref('')

const rights: Record<string, string> = {
  administrator: 'may do everything, accounts included',
  'program manager': 'plans the whole program',
  'team lead': 'leads Lamp Control: its iterations, velocity and items',
  member: 'changes her own items and days off',
  viewer: 'looks, and changes nothing',
}

onMounted(() => attempt(async () => (options.value = await session.options())))

/** On to where somebody wanted to go; never to another site. */
async function goOn(): Promise<void> {
  const next = typeof route.query.next === 'string' ? route.query.next : '/'
  await router.push(next.startsWith('/') && !next.startsWith('//') ? next : '/')
}

const enter = (name: string) => attempt(() => session.enterDemo(name).then(goOn))
const submit = async () => {
  if (await attempt(() => session.signIn(login.value, password.value))) await goOn()
  else password.value = ''
}
</script>

<template>
  <main class="page">
    <h1>Sign in</h1>
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    <template v-if="options?.demo.length">
      <p>This is the demo. Enter it as one of its made-up people; each may do different things.</p>
      <ul class="people">
        <li v-for="a in options.demo" :key="a.login">
          <button class="person" :disabled="busy" @click="enter(a.login)">
            <b>{{ a.name }}</b>
            <span class="tag">{{ a.role }}</span>
            <span class="quiet">{{ rights[a.role] }}</span>
          </button>
        </li>
      </ul>
    </template>
    <p v-else-if="options?.first">
      There is no account here yet. The terminal in which the server was started shows a link that makes the
      first administrator; it works once. Without a terminal at hand,
      <code>jantrel user add NAME --admin</code> does the same.
    </p>
    <form v-else-if="options" class="form narrow" @submit.prevent="submit">
      <div class="field">
        <label for="login">Sign-in name</label>
        <input id="login" v-model="login" v-focus class="in" autocomplete="username" required />
      </div>
      <div class="field">
        <label for="password">Password</label>
        <input
          id="password"
          v-model="password"
          class="in"
          type="password"
          autocomplete="current-password"
          required
        />
      </div>
      <div class="buttons"><Button type="submit" label="Sign in" :disabled="busy" /></div>
    </form>
  </main>
</template>

<style scoped>
.narrow {
  width: 320px;
  margin-top: 16px;
}

.people {
  display: grid;
  gap: 8px;
  list-style: none;
  margin: 16px 0;
  padding: 0;
}

.person {
  display: grid;
  grid-template-columns: 170px 130px 1fr;
  gap: 12px;
  align-items: center;
  width: 100%;
  padding: 12px 14px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
  text-align: left;
  cursor: pointer;
}

.person:hover {
  background: var(--tint);
}

.person b {
  font: 650 15px var(--heading);
}

.tag {
  justify-self: start;
}
</style>
