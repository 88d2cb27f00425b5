/** What was typed into forms and not saved, as this browser keeps it. */
const prefix = 'jantrel-draft/'
/** How many are kept, the latest ones, and how long one may be, in characters. */
const MOST = 60
const LONGEST = 200_000

interface Kept {
  at: number
  form: unknown
}

/** What was typed into a form; undefined for nothing. */
export function draftOf(key: string): unknown {
  try {
    return (JSON.parse(localStorage.getItem(prefix + key) ?? 'null') as Kept | null)?.form ?? undefined
  } catch {
    return undefined // written by something else
  }
}

/** Keeps what is typed into a form; where the browser has no room for it, it is kept by the page alone. */
export function keepDraft(key: string, form: unknown, now = Date.now()): void {
  const text = JSON.stringify({ at: now, form } satisfies Kept)
  if (text.length > LONGEST) return
  try {
    localStorage.setItem(prefix + key, text)
  } catch {
    return
  }
  const all = Object.keys(localStorage).filter((k) => k.startsWith(prefix))
  if (all.length <= MOST) return
  const age = (k: string) => (JSON.parse(localStorage.getItem(k) ?? '{}') as Partial<Kept>).at ?? 0
  for (const old of all.sort((a, b) => age(a) - age(b)).slice(0, all.length - MOST))
    localStorage.removeItem(old)
}

export const forgetDraft = (key: string): void => localStorage.removeItem(prefix + key)
