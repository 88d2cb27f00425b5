import { computed } from 'vue'
import { amount, sized } from '@/ui/format'
import { useGhosts, type Ghost } from './ghosts'
import { useAxis } from '@/time/axis'
import { useProgram } from '@/line/program'
import { iterationsIn, type Lane } from './layout'
import { usePlanLayout } from './usePlanLayout'

/** The iterations of a lane that are in view, with all that is drawn of them; tops count from the lane's. */
export function useBasins(lane: () => Lane) {
  const store = useProgram()
  const axis = useAxis()
  const ghosts = useGhosts()
  const layout = usePlanLayout()

  const incoming = computed(() => {
    const byIteration = new Map<string, Ghost[]>()
    for (const p of ghosts.value) {
      if (p.team !== lane().team.key || !p.to) continue
      byIteration.set(p.to, [...(byIteration.get(p.to) ?? []), p])
    }
    return byIteration
  })

  return computed(() => {
    const { team } = lane()
    return iterationsIn(team, axis.from, axis.to).map((iteration) => {
      const basin = layout.basin({ ...lane(), top: 0 }, iteration)
      const facts = store.iterationFacts.get(team.key, iteration.key)
      const closed = iteration.state === 'closed'
      const carried = (closed ? iteration.completed : undefined) ?? facts?.load ?? 0
      const name = iteration.name ?? iteration.key
      const over = facts?.over ? ', over capacity' : ''
      return {
        iteration,
        name,
        basin,
        facts,
        blocks: layout.blocks(lane(), basin, iteration.key),
        unseen: layout.unseen(lane(), basin, iteration.key),
        /** Height of what a closed iteration completed. */
        past: closed ? (iteration.completed ?? 0) * basin.scale : 0,
        /** What a closed iteration completed, or what another one carries. */
        carried,
        summary: `${name}: ${amount(carried)} of ${sized(facts?.capacity ?? 0, team)}${over}`,
        /** What a draft, or a lever that is tried, would put here. */
        incoming: incoming.value.get(iteration.key) ?? [],
      }
    })
  })
}
