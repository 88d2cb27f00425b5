/** A key made from a name that none of the taken ones is: "First Light" gives "first-light". */
export function freeKey(name: string, taken: string[]): string {
  const base =
    name
      .normalize('NFKD')
      .replace(/[\u0300-\u036f]/g, '')
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 40) || 'new'
  let key = base
  for (let n = 2; taken.includes(key); n++) key = `${base}-${n}`
  return key
}

/** A team's key from its name: the first letters of its words, "Lamp Control" gives "LC". */
export function teamKey(name: string, taken: string[]): string {
  const words = name
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N} ]+/gu, '')
    .split(/\s+/)
    .filter(Boolean)
  const letters = words.length > 1 ? words.map((w) => w[0]).join('') : (words[0] ?? '').slice(0, 3)
  const base = letters.slice(0, 4).toUpperCase()
  if (!base) return ''
  let key = base
  for (let n = 2; taken.includes(key); n++) key = `${base}${n}`
  return key
}
