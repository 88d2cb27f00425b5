<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { answer, client } from '@/api/client'
import { useAttempt } from '@/ui/useAttempt'
import { useSession } from '@/line/session'

const router = useRouter()
const session = useSession()
const { failure, busy, attempt } = useAttempt()
const present = ref('')
const next = ref('')
const changed = ref(false)

const change = async () => {
  const body = { present: present.value, next: next.value }
  changed.value = await attempt(() => answer(client.POST('/api/v1/me/password', { body })))
  if (changed.value) present.value = next.value = ''
}
const signOut = (everywhere: boolean) =>
  attempt(() => session.signOut(everywhere).then(() => router.push('/sign-in')))
</script>

<template>
  <main class="page">
    <h1>{{ session.me?.name }}</h1>
    <p class="quiet">
      Sign-in name {{ session.me?.login
      }}<template v-if="session.me?.admin">, an administrator of this server</template>
    </p>
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    <template v-if="!session.me?.demo">
      <h2>Password</h2>
      <p v-if="changed" role="status">The password is changed. Your other sessions have ended.</p>
      <form class="form" @submit.prevent="change">
        <input
          class="visually-hidden"
          autocomplete="username"
          :value="session.me?.login"
          tabindex="-1"
          readonly
        />
        <div class="field">
          <label for="present">Present password</label>
          <input
            id="present"
            v-model="present"
            class="in"
            type="password"
            autocomplete="current-password"
            required
          />
        </div>
        <div class="field">
          <label for="next">New password, at least 10 characters</label>
          <input
            id="next"
            v-model="next"
            class="in"
            type="password"
            autocomplete="new-password"
            minlength="10"
            required
          />
        </div>
        <div class="buttons"><Button type="submit" label="Change the password" :disabled="busy" /></div>
      </form>
    </template>
    <p v-else class="quiet">The demo’s accounts have no password; they are entered by a click.</p>
    <h2>Sessions</h2>
    <div class="row">
      <Button outlined label="Sign out" :disabled="busy" @click="signOut(false)" />
      <Button outlined label="Sign out everywhere" :disabled="busy" @click="signOut(true)" />
    </div>
  </main>
</template>

<style scoped>
.form {
  width: 340px;
}
</style>
