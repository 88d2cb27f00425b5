import type { Need } from '@/api/types'
import table from './needWords.gen.json'
import { useProgram } from './program'

/** One step of two teams towards an agreement. */
export type NeedWord = 'ask' | 'agree' | 'offer' | 'accept' | 'decline'

interface WordRule {
  word: NeedWord
  by: 'gives' | 'waits'
  from?: string[]
  to: string
}

/** A need, as far as what may be said to it goes. */
export type Answered = {
  item: string
  needs: string
  agreement?: Need['agreement']
  given?: string
  by?: string
}

/** What may be said to a need between two teams, and saying it: the server decides. */
export function useWords() {
  const store = useProgram()
  const may = (o: Answered, field: 'given' | 'wanted') =>
    store.may({ op: 'set', kind: 'need', in: o.item, key: o.needs, field })
  /** By the server's own table: what needs no more than a yes, and what else there is to say. */
  function words(o: Answered): { yes?: NeedWord; others: NeedWord[] } {
    if (!store.agree) return { others: [] }
    const over = !!o.by && o.by < store.today // a day that is over is not agreed to: another is offered
    const said = (table as WordRule[])
      .filter((r) => !r.from || r.from.includes(o.agreement ?? 'asked'))
      .filter((r) => may(o, r.by === 'gives' ? 'given' : 'wanted'))
      .map((r) => r.word)
      .filter((word) => word !== 'agree' || !over)
    const yes = said.find((word) => word === 'accept' || word === 'agree')
    return { yes, others: said.filter((word) => word !== 'accept' && word !== 'agree') }
  }
  const say = (o: Answered, word: NeedWord, said: { date?: string; why?: string } = {}) =>
    store.mean({
      do: 'answer-need',
      item: o.item,
      needs: o.needs,
      word,
      ...(word === 'accept' && { date: o.given }),
      ...said,
    })
  return { words, say }
}
