import type { Item, Iteration, IterationFacts, Team } from '@/api/types'
import { pair } from '@/line/pair'
import { toDay, type Day } from '@/ui/dates'

/** Where things stand in the lanes. Days run right, pixels down; pure arithmetic. */

export const OPEN_HEIGHT = 178
export const SKYLINE_HEIGHT = 47
/** How much higher open lanes and skylines are. */
const stretch = { compact: [0.75, 0.75], usual: [1, 1], roomy: [1.75, 1.2] } as const
export type Density = keyof typeof stretch
/** Room above the basins of an open lane, for its iterations' names. */
const OPEN_TOP = 24
const SKYLINE_TOP = 12
const FLOOR = 5
/** Room that a basin leaves above its water line, for what stands over it. */
const AIR = 1.12
/** From this height on a block carries its title. */
export const READABLE = 12

export interface Lane {
  team: Team
  top: number
  height: number
  open: boolean
}

export function lanesOf(teams: Team[], opened: Set<string>, density: Density = 'usual'): Lane[] {
  const [wide, small] = stretch[density]
  let top = 0
  return teams.map((team) => {
    const open = opened.has(team.key)
    const lane = { team, top, height: Math.round(open ? OPEN_HEIGHT * wide : SKYLINE_HEIGHT * small), open }
    top += lane.height
    return lane
  })
}

export interface Span {
  start: Day
  end: Day // included
}

/** The iterations of a team that touch a stretch of days. */
export function iterationsIn(team: Team, from: Day, to: Day): (Iteration & { span: Span })[] {
  return (team.iterations ?? [])
    .map((it) => ({ ...it, span: { start: toDay(it.start), end: toDay(it.end) } }))
    .filter(({ span }) => span.start <= to && span.end + 1 >= from)
}

/** Items by team and iteration, in rank order; only those that are in the plan. */
export function stacksOf(items: Item[], isLeaf: (item: Item) => boolean): Map<string, Item[]> {
  const stacks = new Map<string, Item[]>()
  for (const item of items) {
    if (!item.iteration || item.keptOut || !isLeaf(item)) continue
    const key = pair(item.team, item.iteration)
    const stack = stacks.get(key)
    if (stack) stack.push(item)
    else stacks.set(key, [item])
  }
  // What is done lies at the floor: it will not move any more.
  for (const stack of stacks.values())
    stack.sort((a, b) => Number(b.state === 'done') - Number(a.state === 'done'))
  return stacks
}

export interface Basin {
  left: number
  width: number
  top: number
  floor: number
  /** Pixels a unit of size. */
  scale: number
  /** Height of the water line over the floor. */
  line: number
  /** Height of the line were nobody away; 0 where that is unknown. */
  full: number
}

/** How many pixels a unit of size is in a lane: its fullest iteration fits. */
export function scaleOf(lane: Lane, facts: IterationFacts[]): number {
  const most = Math.max(1, ...facts.map((f) => Math.max(f.capacity, f.full, f.load)))
  const room = lane.height - (lane.open ? OPEN_TOP : SKYLINE_TOP) - FLOOR
  return room / (most * AIR)
}

export function basinOf(
  lane: Lane,
  span: Span,
  facts: IterationFacts | undefined,
  scale: number,
  from: Day,
  zoom: number,
): Basin {
  const left = (span.start - from) * zoom
  return {
    left: left + 1,
    width: Math.max(2, (span.end + 1 - span.start) * zoom - 3),
    top: lane.top + (lane.open ? OPEN_TOP : SKYLINE_TOP),
    floor: lane.top + lane.height - FLOOR,
    scale,
    line: (facts?.capacity ?? 0) * scale,
    full: (facts?.full ?? 0) * scale,
  }
}

export interface Block {
  item: Item
  left: number
  top: number
  width: number
  height: number
  /** Some of it stands over the water line. */
  over: boolean
}

/** Items without a size still need something to be seen by. */
const UNSIZED = 0.6

/** The blocks of a basin, stacked from the floor. */
export function blocksOf(basin: Basin, stack: Item[]): Block[] {
  let height = 0
  return stack.map((item) => {
    const own = (item.size ?? UNSIZED) * basin.scale
    height += own
    const gap = own > 4 ? 1.5 : 0.5
    return {
      item,
      left: basin.left + 2,
      width: Math.max(1, basin.width - 4),
      top: basin.floor - height,
      height: Math.max(1, own - gap),
      over: height > basin.line + 0.01 && item.size !== undefined,
    }
  })
}

/** The path of a need, from the end of what is needed to the start of what needs it. */
export function curve(x1: number, y1: number, x2: number, y2: number): string {
  const reach = Math.max(28, Math.min(90, Math.abs(x2 - x1) / 2))
  return `M${x1} ${y1}C${x1 + reach} ${y1} ${x2 - reach} ${y2} ${x2} ${y2}`
}
