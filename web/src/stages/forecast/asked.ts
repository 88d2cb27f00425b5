import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { count } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useWork } from '@/views/work'

/** The questions, in the order in which they are offered. */
export const questions = [
  { key: 'when', title: 'When is it done?' },
  { key: 'fits', title: 'What fits by a date?' },
  { key: 'pace', title: 'What would it take?' },
  { key: 'dates', title: 'Are the dates safe?' },
  { key: 'went', title: 'What moved it?' },
  { key: 'kept', title: 'How good were we?' },
] as const
export type Question = (typeof questions)[number]['key']

/** The odds that a question may be asked at, in percent. */
export const oddsAsked = [50, 85, 95]

/** What is asked, as the address holds it, so that a link asks the same. */
export function useAsked() {
  const store = useProgram()
  const route = useRoute()
  const router = useRouter()
  const text = (key: string): string => (typeof route.query[key] === 'string' ? route.query[key] : '')
  const say = (query: Record<string, string | undefined>) =>
    void router.replace({ query: { ...route.query, ...query } })

  const question = computed<Question>(() => questions.find((q) => q.key === text('ask'))?.key ?? 'when')
  const work = useWork(() => text('of'), { milestones: true })
  /** Items that were picked elsewhere: "items:LC-1,LC-2". */
  const picked = computed(() => {
    if (!text('of').startsWith('items:')) return []
    return text('of')
      .slice(6)
      .split(',')
      .filter((key) => store.items.has(key))
  })
  /** What it is called. */
  const name = computed(() =>
    picked.value.length ? count(picked.value.length, 'picked item') : work.name.value,
  )
  /** The release that is asked about, if it is one. */
  const release = computed(() => (picked.value.length ? undefined : work.release.value))
  const about = computed(() => (picked.value.length ? { items: picked.value } : work.scope.value))
  /** The date of the work itself, if it has one. */
  const due = computed(() => {
    if (picked.value.length) return ''
    if (work.kind.value === 'milestone')
      return store.program.milestones?.find((m) => m.key === work.key.value)?.date ?? ''
    if (work.kind.value === 'item') return store.items.get(work.key.value)?.due ?? ''
    return release.value?.due ?? ''
  })
  const by = computed({
    get: () => (/^\d{4}-\d\d-\d\d$/.test(text('by')) ? text('by') : due.value),
    set: (date) => say({ by: date && date !== due.value ? date : undefined }),
  })
  const odds = computed({
    get: () => (oddsAsked.includes(Number(text('odds'))) ? Number(text('odds')) : 85),
    set: (n) => say({ odds: n === 85 ? undefined : String(n) }),
  })
  return { question, text, say, work, picked, name, release, about, due, by, odds }
}
export type Asked = ReturnType<typeof useAsked>
