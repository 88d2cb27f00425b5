import createClient, { createQuerySerializer } from 'openapi-fetch'
import { ofLine, withLine } from './inView'
import type { paths } from './schema.gen'
import type { Problem } from './types'

/** What the server, or the lack of one, answered instead of what was asked for. */
export class RequestError extends Error {
  constructor(
    message: string,
    /** HTTP status; 0 where the server could not be reached. */
    readonly status: number,
    readonly problem?: Problem,
  ) {
    super(message)
  }
}

/** What went wrong, in words that people can read. */
export const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : String(error))

const serialize = createQuerySerializer()

export const client = createClient<paths>({
  baseUrl: window.location.origin,
  // Looked up at each request, so that tests can put their own in its place.
  fetch: (request) => globalThis.fetch(request),
  querySerializer: (query) => serialize(withLine(query)),
})

/** Gives the data of an answer, or throws a RequestError in plain words. */
export async function answer<T>(
  request: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let result
  try {
    result = await request
  } catch {
    throw new RequestError('The server cannot be reached.', 0)
  }
  if (result.error !== undefined || !result.response.ok) {
    const problem = result.error as Problem | undefined
    throw new RequestError(
      problem?.detail ?? `The server answered ${result.response.status}.`,
      result.response.status,
      problem,
    )
  }
  return result.data as T
}

/**
 * Sends or fetches a file, which the typed client does not carry. Throws a
 * RequestError in plain words.
 */
export async function carry(path: string, body: Blob | string): Promise<Response> {
  const type = typeof body === 'string' ? 'application/json' : 'application/octet-stream'
  return fetched(ofLine(path), { method: 'POST', headers: { 'Content-Type': type }, body })
}

/** Fetches what is at an address. Throws a RequestError in plain words where it cannot be had. */
export async function fetched(address: string, how: RequestInit): Promise<Response> {
  const response = await fetch(address, how).catch(() => {
    throw new RequestError('The server cannot be reached.', 0)
  })
  if (response.ok) return response
  const problem = (await response.json().catch(() => undefined)) as Problem | undefined
  throw new RequestError(
    problem?.detail ?? `The server answered ${response.status}.`,
    response.status,
    problem,
  )
}

/**
 * Names this open page: undo takes back its own edits, also after a reload. A tab that is a copy
 * of another has the other's storage, and with it the mark that the other is open: it gets a
 * name of its own, so that neither takes back or writes over what the other did.
 */
export const clientId = ((): string => {
  const kept = sessionStorage.getItem('jantrel-open') ? null : sessionStorage.getItem('jantrel-client')
  const id = kept ?? crypto.getRandomValues(new Uint32Array(3)).join('-')
  sessionStorage.setItem('jantrel-client', id)
  const mark = () => sessionStorage.setItem('jantrel-open', 'yes')
  mark()
  addEventListener('pageshow', mark)
  addEventListener('pagehide', () => sessionStorage.removeItem('jantrel-open'))
  return id
})()
