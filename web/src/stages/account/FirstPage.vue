<script setup lang="ts">
import Button from 'primevue/button'
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { answer, client } from '@/api/client'
import { useAttempt } from '@/ui/useAttempt'
import { useSession } from '@/line/session'

const router = useRouter()
const session = useSession()
const { failure, busy, attempt } = useAttempt()
// The secret stands behind the #, which a browser sends to no server.
const secret = window.location.hash.slice(1)
const holds = ref<boolean>()
const name = ref('')
const login = ref('')
const password = ref('')

onMounted(() =>
  attempt(async () => {
    holds.value =
      !!secret && (await answer(client.GET('/api/v1/first', { params: { query: { secret } } }))).holds
  }),
)

const submit = async () => {
  const body = { secret, login: login.value, name: name.value, password: password.value }
  if (await attempt(() => session.makeFirst(body))) await router.replace('/')
}
</script>

<template>
  <main class="page">
    <h1>The first administrator</h1>
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    <p v-if="holds === false">
      This link was used already, or is more than a day old. If there is an account,
      <RouterLink to="/sign-in">sign in</RouterLink>. If there is none, start the server again: it shows a new
      link.
    </p>
    <form v-else-if="holds" class="form" @submit.prevent="submit">
      <p class="quiet">
        This account manages the others. The password needs at least 10 characters; several words are easier
        to keep in mind than signs.
      </p>
      <div class="field">
        <label for="name">Your name, as others see it</label>
        <input id="name" v-model="name" v-focus class="in" autocomplete="name" maxlength="120" required />
      </div>
      <div class="field">
        <label for="login">Sign-in name</label>
        <input id="login" v-model="login" class="in" autocomplete="username" maxlength="80" required />
      </div>
      <div class="field">
        <label for="password">Password</label>
        <input
          id="password"
          v-model="password"
          class="in"
          type="password"
          autocomplete="new-password"
          minlength="10"
          required
        />
      </div>
      <div class="buttons"><Button type="submit" label="Make the account" :disabled="busy" /></div>
    </form>
  </main>
</template>

<style scoped>
.form {
  width: 380px;
}

.form p {
  margin: 0;
}
</style>
