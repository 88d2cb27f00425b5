<script setup lang="ts">
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import type { AttentionEntry, Mix, NeedsCell } from '@/api/types'
import { callTitles, useCalls } from '@/line/calls'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'
import { count, percent } from '@/ui/format'
import type { Body } from './body'

/** What the server lists: what needs somebody now, the mix of kinds, or what teams owe each other. */
const props = defineProps<Body>()
const store = useProgram()
const path = () => ({ path: { id: store.id } })
const ask = (signal: AbortSignal): Promise<Found> => {
  if (props.told) return Promise.resolve(props.told)
  const params = path()
  switch (props.card.kind) {
    case 'attention':
      return answer(client.GET('/api/v1/programs/{id}/attention', { params, signal })).then(
        ({ entries }) => ({ entries }),
      )
    case 'mix':
      return answer(
        client.POST('/api/v1/programs/{id}/mix', {
          params,
          signal,
          body: props.card.about?.release
            ? { release: props.card.about.release }
            : { items: (store.program.items ?? []).map((i) => i.key) },
        }),
      ).then((mix) => ({ mix }))
    default:
      return answer(client.GET('/api/v1/programs/{id}/needs/map', { params, signal })).then(({ cells }) => ({
        cells,
      }))
  }
}
interface Found {
  entries?: AttentionEntry[]
  mix?: Mix
  cells?: NeedsCell[]
}
const found = useAnswer<Found>(
  (signal) => (store.id ? ask(signal) : undefined),
  [
    () => store.id,
    () => props.card.kind,
    () => JSON.stringify(props.card.about),
    () => props.told,
    () => store.revision,
    () => store.today,
  ],
  {
    wait: 40,
    forget: ([id, kind, about], [before, was, then]) => id !== before || kind !== was || about !== then,
  },
)
const list = found.answer
const calls = useCalls()
const says = (e: AttentionEntry) => `${calls.name(e)}: ${e.text}`
const entries = computed(() =>
  (list.value?.entries ?? []).filter(
    (e) =>
      !e.off &&
      (!props.card.about?.team || e.team === props.card.about.team || e.another === props.card.about.team) &&
      (!props.card.about?.release || e.release === props.card.about.release),
  ),
)
const kinds = computed(() => list.value?.mix?.kinds ?? [])
const cells = computed(() =>
  [...(list.value?.cells ?? [])].sort((a, b) => b.broken - a.broken || b.needs - a.needs),
)
const team = (key: string) => store.teams.get(key)?.name ?? 'no team'
const sentence = computed(() => {
  if (!list.value) return found.asking.value ? 'Looking…' : ''
  if (props.card.kind === 'attention') {
    if (!entries.value.length) return 'Nothing needs anybody.'
    const [first] = entries.value
    return `${count(entries.value.length, 'thing needs', 'things need')} somebody${first.cost >= 0.5 ? `; the first costs ${count(Math.round(first.cost), 'day')}` : ''}.`
  }
  if (props.card.kind === 'mix') {
    const short = kinds.value.filter((k) => k.short > 0.005)
    if (!kinds.value.length) return 'Nothing is planned.'
    return short.length
      ? `Short of ${short.map((k) => k.kind).join(', ')}.`
      : 'As much of each kind as is wanted.'
  }
  const sum = (key: 'needs' | 'broken' | 'open') => cells.value.reduce((a, c) => a + c[key], 0)
  return `${count(sum('needs'), 'need')} across teams: ${sum('broken')} broken, ${sum('open')} not agreed.`
})
const table = computed(() => {
  switch (props.card.kind) {
    case 'attention':
      return {
        columns: ['Why', 'What', 'Days'],
        rows: entries.value.map((e) => [callTitles[e.kind], says(e), Math.round(e.cost * 10) / 10]),
      }
    case 'mix':
      return {
        columns: ['Kind', 'Items', 'Share', 'Wanted'],
        rows: kinds.value.map((k) => [k.kind, k.items, k.sizes, k.target ?? '']),
      }
    default:
      return {
        columns: ['Gives', 'Waits', 'Needs', 'Tight', 'Broken', 'Not agreed'],
        rows: cells.value.map((c) => [team(c.gives), team(c.waits), c.needs, c.tight, c.broken, c.open]),
      }
  }
})
defineExpose({ sentence, table })
</script>

<template>
  <p v-if="found.failure.value" role="alert" class="failure">{{ found.failure.value }}</p>
  <div
    v-else
    class="scroll"
    tabindex="0"
    role="region"
    :aria-label="`${title}, in full`"
    :style="{ maxHeight: `${height}px` }"
  >
    <ul v-if="card.kind === 'attention'">
      <li v-for="e in entries.slice(0, 30)" :key="e.id">
        <span class="why small">{{ callTitles[e.kind] }}</span>
        <RouterLink :to="calls.open(e)" class="text" :title="says(e)">{{ says(e) }}</RouterLink>
        <span v-if="e.cost >= 0.5" class="small">{{ count(Math.round(e.cost), 'day') }}</span>
      </li>
      <li v-if="entries.length > 30" class="quiet" :data-more="entries.length - 30">
        <RouterLink :to="{ name: 'track', params: { id: store.id }, query: { as: 'attention' } }">{{
          count(entries.length - 30, 'more', 'more')
        }}</RouterLink>
      </li>
    </ul>
    <div v-else-if="card.kind === 'mix'">
      <div v-for="k in kinds" :key="k.kind" class="kind">
        <span>{{ k.kind }}</span>
        <span class="bar"
          ><span class="part" :style="{ width: `${k.sizes * 100}%` }" /><span
            v-if="k.target !== undefined"
            class="wanted"
            :style="{ left: `${k.target * 100}%` }"
        /></span>
        <span class="small"
          >{{ percent(k.sizes)
          }}<template v-if="k.target !== undefined"> of {{ percent(k.target) }} wanted</template></span
        >
      </div>
    </div>
    <table v-else class="table">
      <thead>
        <tr>
          <th scope="col">Gives</th>
          <th scope="col">Waits</th>
          <th scope="col" class="n">Needs</th>
          <th scope="col" class="n">Tight</th>
          <th scope="col" class="n">Broken</th>
          <th scope="col" class="n">Not agreed</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in cells" :key="`${c.gives} ${c.waits}`">
          <td>{{ team(c.gives) }}</td>
          <td>{{ team(c.waits) }}</td>
          <td class="n">
            <RouterLink
              :to="{
                name: 'plan',
                params: { id: store.id },
                query: { as: 'needs', gives: c.gives, waits: c.waits },
              }"
              >{{ c.needs }}</RouterLink
            >
          </td>
          <td class="n">{{ c.tight || '' }}</td>
          <td class="n" :class="{ over: c.broken }">{{ c.broken || '' }}</td>
          <td class="n">{{ c.open || '' }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow: auto;
}

ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}

.why {
  flex: none;
  min-width: 92px;
  color: var(--quiet);
}

.text {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

a {
  color: inherit;
  text-underline-offset: 2px;
}

.kind {
  display: grid;
  grid-template-columns: 70px 1fr 130px;
  gap: 8px;
  align-items: center;
  padding: 3px 0;
}

.bar {
  position: relative;
  height: 12px;
  border-radius: 3px;
  background: var(--basin);
}

.part {
  display: block;
  height: 100%;
  border-radius: 3px;
  background: var(--water);
}

.wanted {
  position: absolute;
  top: -3px;
  bottom: -3px;
  width: 2px;
  background: var(--ink);
}

.over {
  color: var(--over);
  font-weight: 600;
}
</style>
