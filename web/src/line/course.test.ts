import { expect, it } from 'vitest'
import type { ItemState, Step } from '@/api/types'
import vectors from './course.gen.json'
import { courseOf, stepOf, titleOf } from './course'

it('is the course that the server knows', () => {
  expect(vectors.length).toBeGreaterThan(2)
  for (const v of vectors) {
    const course = courseOf(v.steps as Step[])
    expect(course).toEqual(v.course)
    for (const item of v.items)
      expect(stepOf(course, { ...item, state: item.state as ItemState }), JSON.stringify(item)).toBe(item.at)
  }
})

it('calls steps by their name, and states that have none by theirs', () => {
  const course = courseOf([{ name: 'sea trial', state: 'doing' }])
  expect(course.map(titleOf)).toEqual(['to do', 'sea trial', 'in review', 'done'])
})
