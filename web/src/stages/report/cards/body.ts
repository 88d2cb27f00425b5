import type { PageCard, ScreenCard } from '@/api/types'

/** What the body of every card is given. */
export interface Body {
  card: PageCard
  /** What it is called. */
  title: string
  /** How many pixels there are for what it draws. */
  height: number
  /** What it shows, where that was told together with the card, as on a screen; else it is asked for. */
  told?: ScreenCard
}

/** What the body of a card tells its frame. */
export interface Told {
  /** What it says, in a sentence. */
  sentence?: string
  /** The table behind its picture. */
  table?: { columns: string[]; rows: (string | number)[][] }
}
