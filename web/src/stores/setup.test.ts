import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Proposal } from '@/api/types'
import { useProgram } from './program'
import { useSession } from './session'
import { useSetUp } from './setup'

const proposal: Proposal = {
  label: 'Close A·2',
  changes: [{ op: 'set', kind: 'iteration', in: 'A', key: '2', field: 'state', value: 'closed' }],
  effects: {
    iterations: [],
    items: [],
    capacity: [],
    over: {},
    broken: {},
    unplaced: {},
    releases: [],
    milestones: [],
  },
}

let answers: (() => Response)[]
let asked: { path: string; body?: unknown }[]
let applied: [string, unknown][]
let accepts = true

beforeEach(() => {
  setActivePinia(createPinia())
  answers = []
  asked = []
  applied = []
  accepts = true
  vi.spyOn(useProgram(), 'apply').mockImplementation((label, changes) => {
    applied.push([label, changes])
    return Promise.resolve(accepts)
  })
  vi.stubGlobal('fetch', async (request: Request) => {
    const body = request.method === 'POST' ? await request.json() : undefined
    asked.push({ path: new URL(request.url).pathname, body })
    const next = answers.shift()
    if (!next) throw new Error('no line')
    return next()
  })
})

afterEach(() => vi.unstubAllGlobals())

const problem = (status: number, detail: string) => () =>
  Response.json({ detail }, { status, headers: { 'Content-Type': 'application/problem+json' } })

describe('an edit with consequences', () => {
  it('is shown first, and made when somebody agrees', async () => {
    const setUp = useSetUp()
    answers = [() => Response.json(proposal)]
    expect(await setUp.propose({ do: 'close-iteration', teamKey: 'A', key: '2' })).toBe(true)
    expect(applied).toEqual([])
    expect(setUp.proposal?.label).toBe('Close A·2')
    await setUp.agree()
    expect(applied).toEqual([['Close A·2', proposal.changes]])
    expect(setUp.proposal).toBeUndefined()
  })

  it('stays in view where it was refused, and goes when dismissed', async () => {
    const setUp = useSetUp()
    answers = [() => Response.json(proposal)]
    await setUp.propose({ do: 'close-iteration', teamKey: 'A', key: '2' })
    accepts = false
    await setUp.agree()
    expect(setUp.proposal?.label).toBe('Close A·2')
    setUp.dismiss()
    expect(setUp.proposal).toBeUndefined()
  })

  it('that cannot be done says why', async () => {
    const setUp = useSetUp()
    answers = [problem(422, 'Nothing was changed: A·2 is closed already')]
    expect(await setUp.make({ do: 'close-iteration', teamKey: 'A', key: '2' })).toBe(false)
    expect(useProgram().notice?.text).toBe('Nothing was changed: A·2 is closed already')
    expect(applied).toEqual([])
    expect(setUp.working).toBe(false)
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
})
