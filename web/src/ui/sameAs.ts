/** What was before where nothing is different now: what depends on a list of plain things then stays as it is. */
export function sameAs<T extends object>(before: T[] | undefined, now: T[]): T[] {
  const same =
    before?.length === now.length &&
    now.every((x, i) => (Object.keys(x) as (keyof T)[]).every((field) => x[field] === before[i][field]))
  return same ? before : now
}
