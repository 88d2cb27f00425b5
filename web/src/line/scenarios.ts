import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { answer, client, clientId } from '@/api/client'
import { addressOf, type LineInView } from '@/api/inView'
import { once } from '@/api/once'
import type { Intent } from '@/api/intents'
import type { Baseline, MergeChoice, Scenario } from '@/api/types'
import { useProgram } from './program'
import { useAnswer } from './useAnswer'

export interface About {
  name: string
  note?: string
  shared?: boolean
}

/** The colours of scenarios, in the order in which they are made. */
const colours = ['--c3', '--c1', '--c4', '--c2', '--c5']

/** What is asked of somebody who makes a scenario, or changes what is known of one. */
export interface Asked {
  /** The scenario that is changed; missing: a new one. */
  of?: Scenario
  /** The moment that a new one is made of; empty: as the line in view is. */
  at?: string
  /** What it begins with, such as a lever or a draft. */
  begin?: Intent
  /** A name that says what is tried. */
  name?: string
}

/** The scenarios of the program: which there are, which is in view, and how one goes from one to the other. */
export const useScenarios = defineStore('scenarios', () => {
  const store = useProgram()
  const router = useRouter()
  const list = shallowRef<Scenario[]>([])
  const baselines = shallowRef<Baseline[]>([])
  /** The dialog of a scenario's name and note, while it is open. */
  const asked = shallowRef<Asked>()
  /** Which merge is asked about, while it is. */
  const merging = ref<'publish' | 'bring' | 'take-back'>()
  /** The edit that is asked to be taken back. */
  const back = shallowRef<{ revision: number; label: string }>()

  function takeBack(revision: number, label: string): void {
    back.value = { revision, label }
    merging.value = 'take-back'
  }

  async function load(): Promise<void> {
    if (!store.id) return
    const of = store.id
    const found = await answer(
      client.GET('/api/v1/programs/{id}/scenarios', { params: { path: { id: of } } }),
    ).catch(() => undefined)
    const frozen = await answer(
      client.GET('/api/v1/programs/{id}/baselines', { params: { path: { id: of } } }),
    ).catch(() => undefined)
    if (of !== store.id) return
    if (found) list.value = found
    if (frozen) baselines.value = frozen
  }
  watch(
    () => store.id,
    () => (list.value = baselines.value = []),
  )

  /** What is known of the scenario in view, and of how far the live plan has gone on. */
  const { answer: here } = useAnswer(
    () =>
      store.line.scenario && !store.past && store.status === 'ready'
        ? answer(client.GET('/api/v1/programs/{id}/scenario', { params: { path: { id: store.id } } }))
        : undefined,
    [() => store.status, () => store.line, () => store.revision, () => store.live, list],
  )

  const colourOf = (scenario: number): string => `var(${colours[scenario % colours.length]})`
  const name = computed(() => here.value?.name ?? list.value.find((x) => x.id === store.line.scenario)?.name)

  const mayMake = computed(() => store.may({ op: 'set', kind: 'program', field: 'scenarios' }))

  const mayFreeze = computed(() => store.may({ op: 'set', kind: 'program', field: 'baselines' }))

  /** Goes to another line of the program, on the stage in view. */
  const show = (line: Partial<LineInView>) => {
    const { name: stage, query } = router.currentRoute.value
    return router.push({
      name: stage ?? 'plan',
      params: { id: store.id, line: addressOf(line) },
      query,
    })
  }

  /** Makes a scenario of the line in view and goes there; what it begins with is said in it. */
  async function make(about: About, { at, begin }: Asked = {}): Promise<void> {
    const made = await answer(
      client.POST('/api/v1/programs/{id}/scenarios', {
        params: { path: { id: store.id }, query: at ? { at } : {} },
        body: about,
      }),
    )
    await load()
    await show({ scenario: made.id })
    if (!begin) return
    // The line has to be here before something is meant on it.
    await new Promise<void>((r) => {
      const stop = watch(
        () => store.line.scenario === made.id && store.status,
        (status) => {
          if (status !== 'ready') return
          queueMicrotask(() => stop())
          r()
        },
        { immediate: true },
      )
    })
    const begun = await store.mean(begin)
    if (begun?.notes.length) store.notice = { severity: 'info', text: begun.notes.join(' ') }
  }

  async function save(scenario: number, about: About): Promise<void> {
    await answer(
      client.PUT('/api/v1/programs/{id}/scenarios/{scenario}', {
        params: { path: { id: store.id, scenario } },
        body: about,
      }),
    )
    await load()
  }

  async function remove(scenario: number): Promise<void> {
    if (store.line.scenario === scenario) await show({})
    await answer(
      client.DELETE('/api/v1/programs/{id}/scenarios/{scenario}', {
        params: { path: { id: store.id, scenario } },
      }),
    )
    await load()
  }

  /** Freezes the live plan, as it is or at a moment, under a name. */
  async function freeze(name: string, at?: string): Promise<void> {
    await answer(
      client.POST('/api/v1/programs/{id}/baselines', {
        params: { path: { id: store.id }, query: at ? { at } : {} },
        body: { name },
      }),
    )
    await load()
  }

  async function forget(baseline: number): Promise<void> {
    await answer(
      client.DELETE('/api/v1/programs/{id}/baselines/{baseline}', {
        params: { path: { id: store.id, baseline } },
      }),
    )
    await load()
  }

  /** Publishes what is chosen of the scenario in view, if it still comes out as it was shown; what that did. */
  const publish = (choice: MergeChoice, digest?: string) =>
    once((header) =>
      answer(
        client.POST('/api/v1/programs/{id}/do/publish', {
          params: { path: { id: store.id }, header },
          body: { client: clientId, revision: store.revision, digest, intent: { choice } },
        }),
      ),
    )

  return {
    list,
    baselines,
    freeze,
    forget,
    mayMake,
    mayFreeze,
    asked,
    merging,
    back,
    takeBack,
    here,
    name,
    load,
    show,
    make,
    save,
    remove,
    publish,
    colourOf,
  }
})
