import type { NeedsChain } from '@/api/types'

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
  holds: string
}

/** The colours of the theme that is on. */
export function inkOf(page: HTMLElement): Ink {
  const style = getComputedStyle(page)
  const of = (name: string) => style.getPropertyValue(`--${name}`).trim()
  return {
    ink: of('ink'),
    quiet: of('quiet'),
    holds: of('water'),
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
