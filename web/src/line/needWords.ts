import type { Need } from '@/api/types'
import { useProgram } from './program'

/** One step of two teams towards an agreement. */
export type NeedWord = 'ask' | 'agree' | 'offer' | 'accept' | 'decline'

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
  /** Who leads the team that gives answers; the one that waits accepts, and asks. What needs no more than a yes is first. */
  function words(o: Answered): { yes?: NeedWord; others: NeedWord[] } {
    if (store.program.settings.agreements === false) return { others: [] }
    const agreement = o.agreement ?? 'asked'
    const gives = may(o, 'given')
    const waits = may(o, 'wanted')
    const others: NeedWord[] = []
    if (gives) others.push('offer')
    if (gives && agreement !== 'declined') others.push('decline')
    if (waits) others.push('ask')
    const accepts = waits && agreement === 'offered'
    const over = !!o.by && o.by < store.today // what is wanted by a day that is over is offered anew
    const agrees = gives && !over && agreement !== 'agreed' && agreement !== 'offered'
    return { yes: accepts ? 'accept' : agrees ? 'agree' : undefined, others }
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
