<script setup lang="ts">
import { computed } from 'vue'
import type { ScopeHistory, TrackRun, TrackStep } from '@/api/types'
import { amount, count, sized } from '@/ui/format'
import { useProgram } from '@/line/program'

/** What a scope held, what came and went since then, and what there is now: sums that add up. */
const props = defineProps<{ history: ScopeHistory; line: string; what: string; since: string }>()
const emit = defineEmits<{ read: [line: string, what: string] }>()
const store = useProgram()

type Column = { key: keyof TrackRun; title: string; sign: string; what?: TrackStep['what'] }
const columns = computed<Column[]>(() => [
  { key: 'start', title: props.since, sign: '' },
  { key: 'added', title: 'added', sign: '+', what: 'added' },
  { key: 'removed', title: 'taken out', sign: '−', what: 'removed' },
  { key: 'grown', title: 'grown', sign: '+', what: 'grown' },
  { key: 'shrunk', title: 'smaller', sign: '−', what: 'shrunk' },
  { key: 'total', title: 'now', sign: '' },
  { key: 'done', title: 'done', sign: '' },
  { key: 'doneBefore', title: 'done since', sign: '', what: 'finished' },
  { key: 'left', title: 'left', sign: '' },
])
const rows = computed(() => {
  const { all, teams } = props.history
  return [
    {
      line: '',
      name: 'All, in items',
      of: (run: TrackRun, key: keyof TrackRun) => sumOf(run, key).items,
      run: all.since,
    },
    ...teams
      .filter((t) => t.team)
      .map((t) => ({
        line: t.team,
        name: `${store.teams.get(t.team)?.name ?? t.team}, in ${store.teams.get(t.team)?.unit}`,
        of: (run: TrackRun, key: keyof TrackRun) => sumOf(run, key).size,
        run: t.since,
      })),
  ]
})
function sumOf(run: TrackRun, key: keyof TrackRun): { items: number; size: number } {
  if (key !== 'doneBefore') return run[key] as { items: number; size: number }
  return { items: run.done.items - run.doneBefore.items, size: run.done.size - run.doneBefore.size }
}
const loose = computed(() => props.history.teams.find((t) => !t.team)?.total.items ?? 0)
</script>

<template>
  <table class="table ledger">
    <thead>
      <tr>
        <th scope="col">Ledger</th>
        <th v-for="c in columns" :key="c.key" scope="col" class="n">{{ c.title }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in rows" :key="r.line" :class="{ all: !r.line }">
        <th scope="row">{{ r.name }}</th>
        <td v-for="c in columns" :key="c.key" class="n">
          <template v-if="!r.line && (c.key === 'grown' || c.key === 'shrunk')"></template>
          <button
            v-else-if="c.what && r.of(r.run, c.key)"
            class="link"
            :aria-pressed="line === r.line && what === c.what"
            :aria-label="`${r.name}, ${c.title}: ${sized(r.of(r.run, c.key), store.teams.get(r.line))}, read which`"
            @click="emit('read', r.line, c.what)"
          >
            {{ c.sign }}{{ amount(r.of(r.run, c.key)) }}
          </button>
          <span v-else>{{ amount(r.of(r.run, c.key)) }}</span>
        </td>
      </tr>
    </tbody>
  </table>
  <p v-if="loose" class="quiet small">{{ count(loose, 'item') }} of no team count among all.</p>
</template>

<style scoped>
.ledger {
  width: 100%;
}

th[scope='row'] {
  border-color: var(--rule);
  font-weight: 400;
}

.all > * {
  font-weight: 600;
}

.link[aria-pressed='true'] {
  background: var(--tint);
}

p {
  margin: 4px 0 0;
}
</style>
