import { RequestError } from './client'

/** How long to wait before each further try, in milliseconds. */
const pauses = [500, 1000, 2000, 4000]

/** Whether an answer may have got lost on the way: the server was not reached, or what stands before it was not. */
const lost = (error: unknown): boolean =>
  error instanceof RequestError && [0, 502, 503, 504].includes(error.status)

export interface OnceHeader {
  'Idempotency-Key': string
}

/**
 * Sends an edit under a name of its own, and under the same again where the answer got lost:
 * the server makes it once, however often it comes in. What is still lost after the last try is thrown.
 */
export async function once<T>(send: (header: OnceHeader) => Promise<T>): Promise<T> {
  const header = { 'Idempotency-Key': crypto.getRandomValues(new Uint32Array(4)).join('-') }
  for (const pause of pauses) {
    try {
      return await send(header)
    } catch (error) {
      if (!lost(error)) throw error
    }
    await new Promise((resolve) => setTimeout(resolve, pause))
  }
  return send(header)
}
