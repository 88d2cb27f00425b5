import { defineStore } from 'pinia'
import { ref } from 'vue'
import { answer, client, RequestError } from '@/api/client'
import type { Me, SignInOptions } from '@/api/types'

/** Who is signed in. */
export const useSession = defineStore('session', () => {
  const me = ref<Me>()
  /** Whether it was asked yet who is signed in. */
  const known = ref(false)

  async function load(): Promise<void> {
    try {
      me.value = await answer(client.GET('/api/v1/me'))
    } catch (error) {
      // Without a line to the server nobody knows; the page then says so itself.
      if (error instanceof RequestError && error.status === 401) me.value = undefined
    }
    known.value = true
  }

  const options = (): Promise<SignInOptions> => answer(client.GET('/api/v1/sign-in'))

  async function signIn(login: string, password: string): Promise<void> {
    me.value = await answer(client.POST('/api/v1/sign-in', { body: { login, password } }))
  }

  async function enterDemo(login: string): Promise<void> {
    me.value = await answer(client.POST('/api/v1/sign-in/demo', { body: { login } }))
  }

  async function makeFirst(body: {
    secret: string
    login: string
    name: string
    password: string
  }): Promise<void> {
    me.value = await answer(client.POST('/api/v1/first', { body }))
  }

  async function signOut(everywhere = false): Promise<void> {
    await answer(client.POST('/api/v1/sign-out', { body: { everywhere } }))
    me.value = undefined
  }

  return { me, known, load, options, signIn, enterDemo, makeFirst, signOut }
})
