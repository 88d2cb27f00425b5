import type { Program } from '@/api/types'

/** What is promised is called: a release's name, or a milestone's. */
export function promisedName(program: Program, of: { release?: string; milestone?: string }): string {
  return (
    program.milestones?.find((m) => m.key === of.milestone)?.name ??
    program.releases?.find((r) => r.key === of.release)?.name ??
    ''
  )
}
