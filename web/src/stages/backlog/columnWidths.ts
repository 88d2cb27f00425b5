import type { Column } from '@/api/types'

/** Usual widths of columns, in pixels, and how narrow they get where there is little room. */
const widths: Record<string, { usual: number; least?: number }> = {
  rank: { usual: 46 },
  key: { usual: 68 },
  title: { usual: 262, least: 186 },
  kind: { usual: 66 },
  feature: { usual: 122, least: 84 },
  initiative: { usual: 122, least: 84 },
  parent: { usual: 122, least: 84 },
  team: { usual: 110, least: 84 },
  role: { usual: 66 },
  size: { usual: 46 },
  release: { usual: 86 },
  iteration: { usual: 68 },
  state: { usual: 58 },
  needs: { usual: 92 },
  neededBy: { usual: 92 },
  readiness: { usual: 176, least: 120 },
  description: { usual: 200, least: 120 },
}
const other = { usual: 96 }

/** What gives way first where there is no room: never what one ranks, sizes and places by. */
const giveWay = ['role', 'neededBy', 'needs', 'readiness', 'initiative', 'feature', 'kind', 'team']

/** A column with the width that it gets. */
export interface Fitted extends Column {
  width: number
}

const usual = (c: Column) => c.width || (widths[c.field] ?? other).usual
const least = (c: Column) => c.width || (widths[c.field]?.least ?? usual(c))
const sum = (columns: Column[], of: (c: Column) => number) => columns.reduce((n, c) => n + of(c), 0)

/**
 * The columns as they fit into so many pixels: as wide as usual where there is room, else
 * narrower as far as they can still be read; some give way where they may. A width that
 * somebody has set stays. Without room (0: not known yet) they are as wide as usual.
 */
export function fit(columns: Column[], room: number, mayGiveWay: boolean): Fitted[] {
  let shown = columns
  if (room > 0 && mayGiveWay)
    for (const field of giveWay) {
      if (sum(shown, least) <= room) break
      shown = shown.filter((c) => c.field !== field)
    }
  const narrowest = sum(shown, least)
  const spare = sum(shown, usual) - narrowest
  const share = room > 0 && spare > 0 ? Math.max(0, Math.min(1, (room - narrowest) / spare)) : 1
  return shown.map((c) => ({ ...c, width: Math.floor(least(c) + share * (usual(c) - least(c))) }))
}
