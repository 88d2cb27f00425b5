<script setup lang="ts">
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import type { ScopeHistory } from '@/api/types'
import { count, percent, sized } from '@/ui/format'
import { stateTitles } from '@/line/course'
import { landingRange } from '@/line/landingRange'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'

/** How far a scope is: by team and state, and by feature; and which of a release's documents are missing. */
const props = defineProps<{ history: ScopeHistory; release?: string }>()
const store = useProgram()

const states = ['done', 'review', 'doing', 'todo'] as const
const teams = computed(() =>
  props.history.teams.map((run, i) => {
    const part = props.history.parts[i]
    const team = store.teams.get(run.team)
    return {
      key: run.team,
      name: team?.name ?? 'No team',
      items: run.total.items,
      left: team ? `${sized(run.left.size, team)} of ${sized(run.total.size, team)} left` : '',
      unsized: part.unsized,
      parts: states
        .map((state) => ({ state, items: part[state].items }))
        .filter((p) => p.items)
        .map((p) => ({ ...p, text: `${p.items} ${stateTitles.get(p.state)}` })),
    }
  }),
)
const features = computed(() =>
  props.history.features.map((f) => ({
    ...f,
    title: f.item ? (store.items.get(f.item)?.title ?? '') : 'In no feature',
    share: f.done / f.items,
  })),
)
/** When features with work to do land: the plays take a moment. */
const found = useAnswer(
  () =>
    store.id
      ? answer(client.GET('/api/v1/programs/{id}/feature-landings', { params: { path: { id: store.id } } }))
      : undefined,
  [() => store.id, () => store.revision, () => store.today],
  { wait: 30, forget: ([now], [before]) => now !== before },
)
const landings = computed(() => new Map((found.answer.value?.features ?? []).map((l) => [l.key, l])))
const lands = (feature: string | undefined): string => {
  const landing = landings.value.get(feature ?? '')
  return landing ? `lands ${landingRange(landing, store.todayDay)}` : ''
}
const missing = computed(() =>
  (store.program.releases?.find((r) => r.key === props.release)?.documents ?? []).filter((d) => !d.address),
)
</script>

<template>
  <div class="progress">
    <section aria-label="Progress by team">
      <h3>By team</h3>
      <ul>
        <li v-for="t in teams" :key="t.key">
          <p>
            <b>{{ t.name }}</b> <span class="quiet">{{ t.left }}</span>
            <span v-if="t.unsized" class="quiet">{{ ` · ${t.unsized} without size` }}</span>
          </p>
          <div class="bar" :aria-label="t.parts.map((p) => p.text).join(', ')" role="img">
            <span
              v-for="p in t.parts"
              :key="p.state"
              :class="p.state"
              :style="{ flexGrow: p.items }"
              :title="p.text"
              >{{ p.items }}</span
            >
          </div>
        </li>
      </ul>
      <p class="legend small quiet" aria-hidden="true">
        <span v-for="s in states" :key="s"><i :class="s" /> {{ stateTitles.get(s) }}</span>
      </p>
      <template v-if="missing.length">
        <h3>Documents still missing</h3>
        <ul>
          <li v-for="d in missing" :key="d.title">
            {{ d.title }}
            <RouterLink
              v-if="d.item"
              :to="{ name: 'backlog', params: { id: store.id }, query: { item: d.item } }"
              >from {{ d.item }}</RouterLink
            >
          </li>
        </ul>
      </template>
    </section>
    <section aria-label="Progress by feature">
      <h3>By feature</h3>
      <ul class="features" tabindex="0" aria-label="Features, the most important first">
        <li v-for="f in features" :key="f.item ?? ''">
          <RouterLink
            v-if="f.item"
            class="name"
            :to="{ name: 'backlog', params: { id: store.id }, query: { item: f.item } }"
            :title="f.title"
            ><b>{{ f.item }}</b> {{ f.title }}</RouterLink
          >
          <span v-else class="name">{{ f.title }}</span>
          <span class="bar" aria-hidden="true"
            ><span class="done" :style="{ flexGrow: f.share }" /><span
              class="todo"
              :style="{ flexGrow: 1 - f.share }"
          /></span>
          <span class="n small">{{ f.done }} of {{ count(f.items, 'item') }}, {{ percent(f.share) }}</span>
          <span class="small" title="At 50 to 85 % odds, with all of the feature">{{ lands(f.item) }}</span>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.progress {
  display: grid;
  grid-template-columns: minmax(300px, 2fr) 3fr;
  gap: 16px 32px;
}

h3 {
  margin: 0 0 4px;
  font-size: 14px;
}

ul {
  margin: 0 0 10px;
  padding: 0;
  list-style: none;
}

li {
  padding: 3px 0;
}

p {
  margin: 0;
}

a {
  color: inherit;
}

.features {
  max-height: 300px;
  overflow-y: auto;
}

.features:focus-visible {
  outline: 2px solid var(--focus);
}

.features li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 80px 130px 150px;
  gap: 10px;
  align-items: center;
}

.name {
  overflow: hidden;
  text-decoration: none;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.bar {
  display: flex;
  height: 16px;
  border-radius: 3px;
  overflow: hidden;
}

.bar > span {
  flex-basis: 0;
  padding-left: 5px;
  font-size: 11px;
  line-height: 16px;
  white-space: nowrap;
}

.features .bar {
  height: 8px;
}

.features .bar > span {
  padding: 0;
}

.done {
  background: var(--c0);
  color: var(--on-block);
}

.review {
  background: var(--c1);
  color: var(--on-block);
}

.doing {
  background: var(--c2);
  color: var(--on-block);
}

.todo {
  background: var(--tint);
  color: var(--ink);
}

.legend {
  display: flex;
  gap: 12px;
  margin-bottom: 12px;
}

.legend i {
  display: inline-block;
  width: 10px;
  height: 10px;
  border: 1px solid var(--rule);
  border-radius: 2px;
}
</style>
