import type { Program } from '@/api/types'

const folded = (role: string) => role.trim().toLowerCase()

/** What people may do in a program, as the server has it: the roles to choose from, then, by name, those in use besides. */
export function rolesKnown(program: Program): string[] {
  const besides = [
    ...(program.people ?? []).flatMap((p) => p.roles ?? []),
    ...(program.teams ?? []).flatMap((t) => (t.members ?? []).flatMap((m) => m.roles ?? [])),
    ...(program.items ?? []).map((i) => i.role ?? ''),
    ...(program.patterns ?? []).flatMap((p) => (p.parts ?? []).map((part) => part.role ?? '')),
  ].sort()
  const known = [...(program.settings.roles ?? [])]
  const has = new Set(['', ...known.map(folded)])
  for (const role of besides) {
    if (!has.has(folded(role)) && !role.includes(',')) known.push(role)
    has.add(folded(role))
  }
  return known
}
