import { createPinia, setActivePinia, type Pinia } from 'pinia'
import { vi } from 'vitest'
import type { Program } from '@/api/types'
import { useProgram } from './program'
import { factsOf, smallProgram } from './testing'

/** For tests of what is drawn; they need a document. */

interface Served {
  pinia: Pinia
  /** What is answered, by path, once it is there; what is not here is done, and changes nothing. */
  answers: Record<string, unknown>
  /** What was asked. */
  asked: { path: string; body: Record<string, unknown> }[]
}

/** A program that is open to its manager, and a stand-in for its server. */
export function withProgram(program: Program = smallProgram()): Served {
  localStorage.clear()
  const pinia = createPinia()
  setActivePinia(pinia)
  const store = useProgram()
  store.id = 1
  store.connected = true
  store.program = program
  store.facts = factsOf(program)
  store.today = '2027-03-23'
  store.mine = { role: 'program manager', author: '1', teams: [], rights: [] }
  const asked: Served['asked'] = []
  const answers: Served['answers'] = {}
  vi.stubGlobal('fetch', async (request: Request) => {
    const path = new URL(request.url).pathname
    asked.push({
      path,
      body: request.method === 'POST' ? ((await request.json()) as Record<string, unknown>) : {},
    })
    return Response.json(
      (await answers[path]) ?? { update: undefined, undo: '', redo: '', keys: [], notes: [] },
    )
  })
  return { pinia, answers, asked }
}
