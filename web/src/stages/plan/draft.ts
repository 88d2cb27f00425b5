import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { answer, client, wordsOf } from '@/api/client'
import type { Change, Drafted, Why } from '@/api/types'
import { count } from '@/ui/format'
import { usePlan } from './plan'
import { useProgram } from '@/line/program'

/** One item that a draft would put elsewhere; no `to` unplaces it. */
export interface Proposal {
  item: string
  team: string
  from: string
  to: string
  why: Why
}

/** A draft in view: proposed, not accepted. */
export const useDraft = defineStore('draft', () => {
  const program = useProgram()
  const plan = usePlan()
  const visible = ref(false)
  const busy = ref(false)
  const failure = ref('')
  const onlySelected = ref(false)
  const keepClose = ref(false)
  const fillTo = ref(100)
  const drafted = shallowRef<Drafted>()
  const accepted = ref<Set<string>>(new Set())

  const proposals = computed<Proposal[]>(() => {
    if (!drafted.value) return []
    const { placements, unplaced } = drafted.value.draft
    return [
      ...placements
        .filter((x) => x.moved)
        .map((x) => ({ item: x.item, team: x.team, from: x.from ?? '', to: x.iteration, why: x.why })),
      ...unplaced
        .filter((x) => x.moved)
        .map((x) => ({
          item: x.item,
          team: program.items.get(x.item)?.team ?? '',
          from: x.from ?? '',
          to: '',
          why: x.why,
        })),
    ]
  })
  const byItem = computed(() => new Map(proposals.value.map((x) => [x.item, x])))
  /** Whether the plan has changed since it was drafted on. */
  const stale = computed(() => drafted.value !== undefined && drafted.value.revision !== program.revision)

  const ownFill = () => Math.round(program.program.settings.fillTo * 100)
  const mayMove = (key: string) => program.may({ op: 'set', kind: 'item', key, field: 'iteration' })
  const open = () => new Set(proposals.value.map((x) => x.item).filter(mayMove))

  function start(): void {
    visible.value = true
    fillTo.value = ownFill()
    onlySelected.value = plan.selection.length > 1
    void draft()
  }

  async function draft(): Promise<void> {
    busy.value = true
    failure.value = ''
    try {
      const body = {
        keepClose: keepClose.value,
        // As the program has it means: each team as it has it itself.
        ...(fillTo.value === ownFill() ? {} : { fillTo: fillTo.value / 100 }),
        ...(onlySelected.value && plan.selection.length ? { items: plan.selection } : {}),
      }
      drafted.value = await answer(
        client.POST('/api/v1/programs/{id}/draft', { params: { path: { id: program.id } }, body }),
      )
      accepted.value = open()
    } catch (error) {
      failure.value = wordsOf(error)
    } finally {
      busy.value = false
    }
  }

  function toggle(item: string): void {
    const next = new Set(accepted.value)
    if (!next.delete(item)) next.add(item)
    accepted.value = next
  }

  function tickAll(on: boolean): void {
    accepted.value = on ? open() : new Set()
  }

  /** Takes the ticked moves over, as one edit. */
  async function accept(): Promise<void> {
    const taken = proposals.value.filter((x) => accepted.value.has(x.item))
    const changes: Change[] = taken.map((x) => ({
      op: 'set',
      kind: 'item',
      key: x.item,
      field: 'iteration',
      value: x.to,
    }))
    const whole = taken.length === proposals.value.length
    if (
      await program.apply(
        `Accept ${whole ? 'a draft' : 'part of a draft'}: ${count(taken.length, 'move')}`,
        changes,
      )
    )
      discard()
  }

  function discard(): void {
    visible.value = false
    drafted.value = undefined
  }

  return {
    visible,
    busy,
    failure,
    onlySelected,
    keepClose,
    fillTo,
    drafted,
    accepted,
    proposals,
    byItem,
    stale,
    start,
    draft,
    toggle,
    tickAll,
    accept,
    discard,
  }
})
