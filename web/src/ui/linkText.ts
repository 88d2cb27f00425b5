import type { AccessLink } from '@/api/types'

/** What a link leads to, by name. */
export function linkText({ kind, to }: Pick<AccessLink, 'kind' | 'to'>): string {
  switch (kind) {
    case 'brief':
      return `Brief “${to}”`
    case 'screen':
      return `Wall screen of “${to}”`
    case 'dates':
      return 'Calendar address'
  }
}
