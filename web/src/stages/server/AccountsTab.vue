<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { onMounted, reactive, ref } from 'vue'
import { answer, client } from '@/api/client'
import type { Account } from '@/api/types'
import AccountAccess from './AccountAccess.vue'
import { useAttempt } from '@/ui/useAttempt'

const { failure, busy, attempt } = useAttempt()
const accounts = ref<Account[]>([])
const editing = ref<Account>()
const form = reactive({ open: false, name: '', login: '', password: '', admin: false, disabled: false })

const load = async () => {
  accounts.value = await answer(client.GET('/api/v1/accounts'))
}
onMounted(() => attempt(load))

function edit(account?: Account): void {
  editing.value = account
  failure.value = ''
  Object.assign(form, {
    open: true,
    name: account?.name ?? '',
    login: account?.login ?? '',
    password: '',
    admin: account?.admin ?? false,
    disabled: account?.disabled ?? false,
  })
}

async function save(): Promise<void> {
  const { name, login, admin, disabled } = form
  const password = form.password || undefined
  const done = await attempt(async () => {
    const account = editing.value
    if (account) {
      // Only what was changed here: another administrator may have changed the rest.
      const body = {
        name: name === account.name ? undefined : name,
        admin: admin === account.admin ? undefined : admin,
        disabled: disabled === account.disabled ? undefined : disabled,
        password,
      }
      await answer(
        client.PUT('/api/v1/accounts/{account}', { params: { path: { account: account.id } }, body }),
      )
    } else {
      await answer(client.POST('/api/v1/accounts', { body: { name, login, password: form.password, admin } }))
    }
  })
  if (!done) return
  form.open = false
  await attempt(load)
}
</script>

<template>
  <section aria-label="Accounts">
    <p class="quiet">
      Who may sign in to this server. What an account is to a program is said in that program, under Set up,
      Access.
    </p>
    <p v-if="failure && !form.open" class="failure" role="alert">{{ failure }}</p>
    <table class="table">
      <thead>
        <tr>
          <th>Name</th>
          <th>Sign-in name</th>
          <th>Rights</th>
          <th>Since</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="a in accounts" :key="a.id">
          <td>
            <button class="link" @click="edit(a)">{{ a.name }}</button>
          </td>
          <td>{{ a.login }}</td>
          <td>
            {{ a.disabled ? 'cannot sign in' : a.admin ? 'administrator of the server' : 'as programs say' }}
          </td>
          <td>{{ a.createdAt.slice(0, 10) }}</td>
        </tr>
      </tbody>
    </table>
    <div class="buttons"><Button label="New account" icon="pi pi-plus" @click="edit()" /></div>
    <Dialog
      v-model:visible="form.open"
      modal
      :header="editing ? editing.name : 'New account'"
      :style="{ width: '480px' }"
    >
      <form class="form" @submit.prevent="save">
        <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
        <div class="field">
          <label for="a-name">Name</label>
          <input id="a-name" v-model="form.name" class="in" maxlength="120" autofocus required />
        </div>
        <div class="field">
          <label for="a-login">Sign-in name</label>
          <input
            id="a-login"
            v-model="form.login"
            class="in"
            autocomplete="off"
            :disabled="!!editing"
            required
          />
        </div>
        <div class="field">
          <label for="a-password">{{
            editing ? 'New password, or empty to keep the present one' : 'Password'
          }}</label>
          <input
            id="a-password"
            v-model="form.password"
            class="in"
            type="password"
            autocomplete="new-password"
            minlength="10"
            :required="!editing"
          />
        </div>
        <label class="check"
          ><input v-model="form.admin" type="checkbox" /> Administrator of the server</label
        >
        <label v-if="editing" class="check">
          <input v-model="form.disabled" type="checkbox" /> Cannot sign in
        </label>
        <AccountAccess v-if="editing" :account="editing.id" />
        <div class="buttons">
          <Button text type="button" label="Cancel" @click="form.open = false" />
          <Button type="submit" label="Keep" :disabled="busy" />
        </div>
      </form>
    </Dialog>
  </section>
</template>
