import { defineStore } from 'pinia'
import { ref } from 'vue'
import { answer, client } from '@/api/client'
import type { Me, SignInOptions } from '@/api/types'

/** Who is signed in. */
export const useSession = defineStore('session', () => {
  const me = ref<Me>()
  /** Whether it was asked yet who is signed in. */
  const known = ref(false)

  async function load(): Promise<void> {
    try {
      me.value = (await options()).me
    } catch {
      // Without a line to the server nobody knows; the page then says so itself.
    }
    known.value = true
  }

  /** How one can sign in here, and who is signed in already: asked of by who is nobody yet, too. */
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
