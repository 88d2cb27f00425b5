// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Outcome } from '@/api/types'
import { useProgram } from '@/line/program'
import { useSession } from '@/line/session'
import { useProposals } from './proposals'

const outcome: Outcome = {
  label: 'Close A·2',
  keys: [],
  notes: [],
  changes: 1,
  revision: 7,
  digest: 'd1',
  undo: '',
  redo: '',
}

let answers: (() => Response)[]
let asked: { path: string; body?: unknown }[]

beforeEach(() => {
  setActivePinia(createPinia())
  answers = []
  asked = []
  Object.assign(useProgram(), { id: 1, revision: 7, connected: true })
  vi.stubGlobal('fetch', async (request: Request) => {
    const body = request.method === 'POST' ? await request.json() : undefined
    asked.push({ path: new URL(request.url).pathname, body })
    const next = answers.shift()
    if (!next) throw new Error('no line')
    return next()
  })
})

const problem = (status: number, detail: string) => () =>
  Response.json({ detail }, { status, headers: { 'Content-Type': 'application/problem+json' } })

const closing = { do: 'close-iteration', team: 'A', key: '2' } as const

describe('an edit with consequences', () => {
  it('is shown first, and made when somebody agrees', async () => {
    const proposals = useProposals()
    answers = [() => Response.json(outcome), () => Response.json({ ...outcome, undo: 'Close A·2' })]
    expect(await proposals.propose(closing)).toBe(true)
    expect(asked[0].path).toBe('/api/v1/programs/1/do/close-iteration')
    expect(asked[0].body).toMatchObject({ dry: true, revision: 7, intent: { team: 'A', key: '2' } })
    expect(proposals.proposal?.label).toBe('Close A·2')
    useProgram().revision = 9
    await proposals.agree()
    expect(asked[1].body).toMatchObject({ revision: 7, digest: 'd1', intent: { team: 'A', key: '2' } })
    expect(asked[1].body).not.toHaveProperty('dry')
    expect(proposals.proposal).toBeUndefined()
    expect(useProgram().undoLabel).toBe('Close A·2')
  })

  it('is shown anew where it would do something else by now', async () => {
    const proposals = useProposals()
    const now = { ...outcome, revision: 8, digest: 'd2', changes: 4 }
    const conflict = {
      detail: 'The plan has changed meanwhile',
      errors: [{ message: 'What it would do now', location: 'proposal', value: now }],
    }
    answers = [() => Response.json(outcome), () => Response.json(conflict, { status: 409 })]
    await proposals.propose(closing)
    await proposals.agree()
    expect(proposals.proposal).toMatchObject({ anew: true, changes: 4, digest: 'd2', intent: closing })
    expect(useProgram().notice).toBeUndefined()
    answers = [() => Response.json(outcome)]
    await proposals.agree()
    expect(asked[2].body).toMatchObject({ revision: 8, digest: 'd2' })
  })

  it('stays in view where it was refused, and goes when dismissed', async () => {
    const proposals = useProposals()
    answers = [() => Response.json(outcome), problem(403, 'Nothing was changed: ask a manager.')]
    await proposals.propose(closing)
    await proposals.agree()
    expect(proposals.proposal?.label).toBe('Close A·2')
    expect(useProgram().notice?.text).toContain('ask a manager')
    proposals.dismiss()
    expect(proposals.proposal).toBeUndefined()
  })

  it('that cannot be done says why', async () => {
    const proposals = useProposals()
    answers = [problem(422, 'Nothing was changed: A·2 is closed already')]
    expect(await proposals.make(closing)).toBe(false)
    expect(useProgram().notice?.text).toBe('Nothing was changed: A·2 is closed already')
    expect(proposals.working).toBe(false)
  })
})

describe('the session', () => {
  const me = {
    id: 1,
    login: 'ann',
    name: 'Ann',
    admin: true,
    disabled: false,
    createdAt: '',
    mayCreate: true,
    demo: false,
  }

  it('knows nobody until somebody signs in', async () => {
    const session = useSession()
    answers = [problem(401, 'You are not signed in'), () => Response.json(me)]
    await session.load()
    expect([session.known, session.me]).toEqual([true, undefined])
    await session.signIn('ann', 'seven lamps burn')
    expect(session.me?.name).toBe('Ann')
    expect(asked[1]).toEqual({
      path: '/api/v1/sign-in',
      body: { login: 'ann', password: 'seven lamps burn' },
    })
    answers = [() => new Response(null, { status: 204 })]
    await session.signOut(true)
    expect(session.me).toBeUndefined()
    expect(asked[2].body).toEqual({ everywhere: true })
  })

  it('says why somebody could not sign in', async () => {
    const session = useSession()
    answers = [problem(429, 'Not signed in: too many failed tries; try again in a second.')]
    await expect(session.signIn('ann', 'x')).rejects.toThrow('try again in a second')
    expect(session.me).toBeUndefined()
  })

  it('is planned again with the answer to what it asks', async () => {
    const proposals = useProposals()
    const ask = {
      text: 'Do they add?',
      field: 'joining',
      answer: 'adds',
      answers: [{ value: 'included', text: 'No' }],
    }
    answers = [() => Response.json({ ...outcome, ask }), () => Response.json({ ...outcome, digest: 'd2' })]
    await proposals.propose({ do: 'set-members', team: 'A', members: [] }, { atOnce: true })
    expect(proposals.proposal?.ask?.field).toBe('joining')
    await proposals.reply('included')
    expect(asked[1].body).toMatchObject({ dry: true, intent: { team: 'A', joining: 'included' } })
    expect(proposals.proposal?.digest).toBe('d2')
  })

  it('is made at once where it has no consequence, if so wished', async () => {
    const proposals = useProposals()
    const effects = {
      iterations: [],
      items: [],
      capacity: [],
      over: {},
      broken: {},
      missed: {},
      unplaced: {},
      releases: [],
      milestones: [],
    }
    answers = [() => Response.json({ ...outcome, effects }), () => Response.json(outcome)]
    const agreed = vi.fn()
    await proposals.propose({ do: 'set-members', team: 'A', members: [] }, { atOnce: true, agreed })
    expect(asked[1].body).toMatchObject({ digest: 'd1' })
    expect(agreed).toHaveBeenCalled()
    expect(proposals.proposal).toBeUndefined()
  })
})
