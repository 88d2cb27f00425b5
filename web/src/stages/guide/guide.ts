import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed } from 'vue'
import { useRoute, useRouter, type RouteLocationRaw } from 'vue-router'
import { answer, client } from '@/api/client'
import type { GuideCheck, Guidance } from '@/api/types'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { usePlan, type Focus } from '@/stages/plan/plan'

/** How each step is done well, and what of it is open: beside the stages, where one wants it. */
export const useGuide = defineStore('guide', () => {
  const store = useProgram()
  const route = useRoute()
  const router = useRouter()
  const plan = usePlan()
  /** Whether it stands beside the stage: as this browser last had it. */
  const open = useStorage('jantrel-guide', false)
  /** Whether the program wants it; who may change that is offered it all the same. */
  const on = computed(() => store.program.settings.guidance !== false)
  const whole = computed(() => route.name === 'report' && route.query.as === 'working')
  const shown = computed(() => open.value && on.value && !whole.value)
  const found = useAnswer<Guidance>(
    (signal) =>
      store.id && store.status === 'ready' && (shown.value || whole.value)
        ? answer(client.GET('/api/v1/programs/{id}/guidance', { params: { path: { id: store.id } }, signal }))
        : undefined,
    [() => store.id, () => store.status, shown, whole, () => store.revision, () => store.today],
    { wait: 40, forget: ([id], [before]) => id !== before },
  )
  /** The step that the stage in view belongs to. */
  const step = computed(() =>
    found.answer.value?.steps.find((s) => String(route.name ?? '').startsWith(s.stage)),
  )

  /** Leads to where something is seen to. */
  async function lead({ lead: to }: GuideCheck): Promise<void> {
    const name = to.tab ? `set-up-${to.tab}` : to.stage
    const query = { as: to.as, ask: to.ask, view: to.view }
    await router.push({ name, params: { id: store.id }, query } as RouteLocationRaw)
    if (to.focus) plan.show(to.focus as Focus)
  }

  return { open, on, shown, found, step, lead }
})
