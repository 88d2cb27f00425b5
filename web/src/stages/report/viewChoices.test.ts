// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { describe, expect, it } from 'vitest'
import type { View } from '@/api/types'
import { useViews } from '@/views/views'
import { choiceOf, viewChoices, viewOf } from './viewChoices'

describe('views that cards are of', () => {
  it('are written as one choice, and read back', () => {
    for (const named of [{}, { view: 'ready' }, { view: 'a:b' }, { view: 'late', mine: true }])
      expect(viewOf(choiceOf(named))).toEqual(named)
  })

  it('are ready-made, shared and, where it is for oneself, one’s own', () => {
    setActivePinia(createPinia())
    useViews().mine = [{ key: 'late', name: 'Late ones' } as View]
    expect(viewChoices(false)).toEqual([])
    expect(viewChoices(true)).toEqual([{ title: 'Views of my own', of: [['mine:late', 'Late ones']] }])
  })
})
