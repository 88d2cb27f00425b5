// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import { MAX_ZOOM, MIN_ZOOM, useAxis } from './axis'

beforeEach(() => setActivePinia(createPinia()))

it('zooms about a day that stays where it is, within bounds', () => {
  const axis = useAxis()
  axis.from = 100
  axis.zoom = 8
  axis.zoomBy(2, 110)
  expect((110 - axis.from) * axis.zoom).toBeCloseTo(80)
  axis.zoomBy(100)
  expect(axis.zoom).toBe(MAX_ZOOM)
  axis.zoomBy(0.0001)
  expect(axis.zoom).toBe(MIN_ZOOM)
})

it('brings days to the middle, and stays where they are in view already', () => {
  const axis = useAxis()
  axis.from = 0
  axis.reveal(500, 510)
  expect((axis.from + axis.to) / 2).toBeCloseTo(505)
  const from = axis.from
  axis.reveal(506, 520)
  expect(axis.from).toBe(from)
})
