import { answer, client, clientId } from './client'
import { once } from './once'
import type { paths } from './schema.gen'
import type { Outcome } from './types'

type Body<P> = P extends {
  post: { requestBody: { content: { 'application/json': { intent: infer I } } } }
}
  ? I
  : never

type Of<P extends keyof paths> = P extends `/api/v1/programs/{id}/do/${infer Name}`
  ? { do: Name } & Body<paths[P]>
  : never

/** What somebody means to do: the name of an intent of the server, and what that takes. */
export type Intent = Of<keyof paths>

/** The same of one intent. */
export type IntentOf<Name extends Intent['do']> = Extract<Intent, { do: Name }>

export interface Said {
  /** The revision that was in view when it was said. */
  revision: number
  /** Only say what it would do. */
  dry?: boolean
  /** When dry: say when releases would land, too. */
  landings?: boolean
  /** Of a proposal that was agreed to. */
  digest?: string
}

type Path = Extract<keyof paths, `/api/v1/programs/{id}/do/${string}`>

/** Says an intent to the server, which works out what that changes. */
export function say(program: number, intent: Intent, said: Said): Promise<Outcome> {
  const { do: name, ...rest } = intent
  return once((header) =>
    answer<Outcome>(
      client.POST(`/api/v1/programs/{id}/do/${name}` as Path, {
        params: { path: { id: program }, header },
        body: { client: clientId, ...said, intent: rest } as never,
      }),
    ),
  )
}
