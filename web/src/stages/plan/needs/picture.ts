import type { NeedsCell, NeedsChain } from '@/api/types'

/** A drawing that stands alone: its text, and its size in pixels. */
export interface Picture {
  svg: string
  width: number
  height: number
}

/** The colours of a picture, as the page has them. */
export interface Ink {
  ink: string
  quiet: string
  rule: string
  panel: string
  tint: string
  holds: string
  tight: string
  broken: string
}

/** The colours of the theme that is on. */
export function inkOf(page: HTMLElement): Ink {
  const style = getComputedStyle(page)
  const of = (name: string) => style.getPropertyValue(`--${name}`).trim()
  return {
    ink: of('ink'),
    quiet: of('quiet'),
    rule: of('rule'),
    panel: of('panel'),
    tint: of('tint'),
    holds: of('water'),
    tight: of('caution'),
    broken: of('needs'),
  }
}

const escaped = (text: string) =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!)
const box = (x: number, y: number, width: number, height: number, fill: string, more = '') =>
  `<rect x="${x}" y="${y}" width="${Math.max(0, width)}" height="${height}" fill="${fill}"${more}/>`
const words = (x: number, y: number, text: string, fill: string, size = 13, more = '') =>
  `<text x="${x}" y="${y}" font-size="${size}" fill="${fill}"${more}>${escaped(text)}</text>`
const whole = (width: number, height: number, parts: string[]): Picture => ({
  svg: `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" font-family="sans-serif">${parts.join('')}</svg>`,
  width,
  height,
})

/** What of a name is drawn in so many pixels, about. */
const cut = (text: string, width: number) => {
  const most = Math.floor(width / 7)
  return text.length <= most ? text : `${text.slice(0, Math.max(1, most - 1))}…`
}

/** Who owes whom, as it is on screen: teams that give down, teams that wait across. */
export function mapPicture(
  teams: string[],
  label: (key: string) => string,
  cell: (gives: string, waits: string) => NeedsCell | undefined,
  ink: Ink,
): Picture {
  const [left, top, width, height] = [150, 52, 84, 48]
  const parts = teams.flatMap((team, n) => [
    words(left + n * width + 4, top - 12, cut(label(team), width), ink.ink, 12, ' font-weight="600"'),
    words(8, top + n * height + 28, cut(label(team), left - 16), ink.ink, 12, ' font-weight="600"'),
  ])
  teams.forEach((gives, row) =>
    teams.forEach((waits, column) => {
      const [x, y] = [left + column * width, top + row * height]
      parts.push(box(x, y, width, height, gives === waits ? ink.tint : ink.panel, ` stroke="${ink.rule}"`))
      const c = cell(gives, waits)
      if (!c) return
      parts.push(words(x + 8, y + 21, String(c.needs), ink.ink, 15, ' font-weight="700"'))
      if (c.open) parts.push(words(x + 34, y + 20, `${c.open}?`, ink.quiet, 12))
      let at = x + 8
      for (const [many, fill] of [
        [c.needs - c.tight - c.broken, ink.holds],
        [c.tight, ink.tight],
        [c.broken, ink.broken],
      ] as const) {
        const long = ((width - 16) * many) / c.needs
        if (many) parts.push(box(at, y + 32, long, 6, fill))
        at += long
      }
    }),
  )
  const foot = top + teams.length * height + 24
  parts.push(
    words(8, 20, 'Who owes whom. Down: the team that gives. Across: the team that waits.', ink.quiet, 12),
  )
  let x = 8
  for (const [name, fill] of [
    ['holds', ink.holds],
    ['no day to spare', ink.tight],
    ['broken', ink.broken],
  ] as const) {
    parts.push(box(x, foot - 9, 18, 8, fill), words(x + 24, foot, name, ink.quiet, 12))
    x += 48 + 7 * name.length
  }
  parts.push(words(x, foot, '? not agreed yet', ink.quiet, 12))
  return whole(left + teams.length * width + 8, foot + 12, parts)
}

/** Chains as they are on screen, each link where it lies in the time of its chain. */
export function chainsPicture(
  chains: NeedsChain[],
  heading: (chain: NeedsChain, n: number) => string,
  title: (item: string) => string,
  ink: Ink,
): Picture {
  const [left, width, row] = [330, 520, 24]
  const most = Math.max(1e-9, ...chains.map((c) => c.days))
  const parts: string[] = []
  let y = 8
  chains.forEach((chain, n) => {
    y += 22
    parts.push(words(8, y, heading(chain, n), ink.ink, 14, ' font-weight="700"'))
    let at = 0
    for (const link of chain.links) {
      y += row
      const from = at + link.gap
      at = from + link.days
      const long = Math.max(3, (width * link.days) / most)
      parts.push(
        words(8, y, cut(`${link.item} ${title(link.item)}`, left - 16), ink.ink, 12),
        box(left + (width * from) / most, y - 11, long, 12, ink.holds),
        words(left + width + 16, y, `critical in ${Math.round(100 * link.critical)} of 100`, ink.quiet, 12),
      )
    }
    y += 12
  })
  return whole(left + width + 160, y + 8, parts)
}
