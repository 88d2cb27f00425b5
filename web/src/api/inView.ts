/**
 * Which line of the program is in view: the live plan, one of its scenarios, or either as it was. Every request that is
 * about the program is about that one; its address in the browser says which.
 */
export interface LineInView {
  /** The number of the scenario; 0: the live plan. */
  scenario: number
  /** The moment of the past: a revision, a day or a time; empty: now. */
  at: string
}

const live: LineInView = { scenario: 0, at: '' }
let inView = live

export const lineInView = (): LineInView => inView
export const showLine = (line: LineInView): void => void (inView = line)

/** What a request asks for, with the line that it is about. Requests that are about no program take no notice of it. */
export const withLine = (query: Record<string, unknown>): Record<string, unknown> => ({
  ...(inView.scenario && { scenario: inView.scenario }),
  ...(inView.at && { at: inView.at }),
  ...query,
})

const ofProgram = /^\/api\/v1\/programs\/\d+/

/** The address of a request with the line that it is about: for links, files and streams. */
export function ofLine(path: string): string {
  if ((!inView.scenario && !inView.at) || !ofProgram.test(path)) return path
  const [before, query = ''] = path.split('?')
  const asked = new URLSearchParams(query)
  for (const [name, value] of Object.entries(withLine({})))
    if (!asked.has(name)) asked.set(name, String(value))
  return `${before}?${asked.toString()}`
}

const inAddress = /^(?:scenario-(?<scenario>\d+)|past-(?<at>.+))$/

/** The line that a part of the page's address names; the live plan where it names none. */
export function lineOfAddress(part: string | undefined): LineInView {
  const found = inAddress.exec(part ?? '')?.groups
  return found ? { scenario: Number(found.scenario ?? 0), at: found.at ?? '' } : live
}

/** How the page's address names a line; empty for the live plan. */
export const addressOf = (line: Partial<LineInView>): string =>
  line.at ? `past-${line.at}` : line.scenario ? `scenario-${line.scenario}` : ''
