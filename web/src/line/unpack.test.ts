import { describe, expect, it } from 'vitest'
import { unpack, type Packed } from './unpack'
import vectors from './unpack.vectors.json'

describe('unpacking', () => {
  it('gives what the server packed', () => {
    expect(vectors.length).toBeGreaterThan(3)
    for (const { packed, plain } of vectors) expect(unpack(packed as unknown as Packed)).toEqual(plain)
  })

  it('puts in what the list leaves out', () => {
    const packed: Packed = { n: 2, c: { load: { v: [3, null] } } }
    expect(unpack(packed, { key: ['a', 'b'] })).toEqual([{ key: 'a', load: 3 }, { key: 'b' }])
  })
})
