<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, shallowRef, watch } from 'vue'
import { answer, client } from '@/api/client'
import type { ReadyRule, Start } from '@/api/types'
import { count, percent } from '@/ui/format'
import { useBacklog } from './backlog'
import { useViews } from '@/views/views'
import { useProgram } from '@/line/program'

/** What ready means here, how many items lack what, and whether blockers are done in time. */
const store = useProgram()
const backlog = useBacklog()
const views = useViews()
const usual = computed<ReadyRule>(() => views.vocabulary?.ready ?? {})
const rule = computed(() => store.program.settings.ready ?? usual.value)
const may = computed(() => store.may({ op: 'set', kind: 'program', field: 'ready' }))

const flags: [keyof ReadyRule, string, string][] = [
  ['size', 'has a size', 'size'],
  ['team', 'has a team', 'team'],
  ['parent', 'belongs to a feature', 'parent'],
  ['release', 'has a release', 'release'],
  ['description', 'has a description', 'description'],
  ['checks', 'has checks', 'checks'],
  ['needs', 'nothing it needs is unplaced or later', 'needs'],
]
const lacking = computed(() => {
  const counts = new Map<string, number>()
  for (const facts of store.facts.items)
    for (const lack of facts.lacks ?? []) counts.set(lack.code, (counts.get(lack.code) ?? 0) + 1)
  return counts
})
const lack = (code: string) =>
  (lacking.value.get(code) ?? 0) + (code === 'needs' ? (lacking.value.get('later') ?? 0) : 0)

function save(next: ReadyRule): void {
  void store.apply('What ready means', [{ op: 'set', kind: 'program', field: 'ready', value: next }])
}
function showLack(code: string): void {
  const values = code === 'needs' ? ['needs', 'later'] : [code]
  const ready = views.vocabulary?.readyMade.find((v) => v.key === 'not-ready')
  backlog.show({
    ...(ready ?? { key: '', name: '' }),
    key: '',
    name: 'Not ready',
    filter: { conditions: [{ field: 'readiness', is: 'has', values }] },
  })
}
const tags = ref('')
watch(rule, (r) => (tags.value = (r.tags ?? []).join(', ')), { immediate: true })
function saveTags(): void {
  const list = tags.value
    .split(',')
    .map((t) => t.trim())
    .filter(Boolean)
  if (list.join() !== (rule.value.tags ?? []).join()) save({ ...rule.value, tags: list })
}
const units = ['points', 'days', 'hours'] as const
const used = computed(() => units.filter((u) => store.program.teams?.some((t) => t.unit === u)))
function saveLargest(unit: string, text: string): void {
  const largest = { ...rule.value.largest }
  const n = Number(text)
  if (text.trim() && n > 0) largest[unit] = n
  else delete largest[unit]
  save({ ...rule.value, largest })
}

const starts = shallowRef<Start[]>([])
watch(
  () => store.revision,
  async () => {
    const found = await answer(
      client.GET('/api/v1/programs/{id}/starts', { params: { path: { id: store.id } } }),
    ).catch(() => undefined)
    if (found) starts.value = found
  },
  { immediate: true },
)
const doubtful = computed(() =>
  [...starts.value].filter((s) => s.chance < 0.85).sort((a, b) => a.chance - b.chance),
)
const where = (key: string) => {
  const item = store.items.get(key)
  return store.teams.get(item?.team ?? '')?.iterations?.find((it) => it.key === item?.iteration)?.name ?? ''
}
</script>

<template>
  <section class="ready" aria-label="Readiness">
    <p>
      <b>{{ count(store.counts.notReady.length, 'item') }}</b> not ready.
    </p>
    <fieldset :disabled="!may">
      <legend>An item is ready when it …</legend>
      <div v-for="[name, text, code] in flags" :key="name" class="one">
        <label class="check"
          ><input
            type="checkbox"
            :checked="!!rule[name]"
            @change="save({ ...rule, [name]: ($event.target as HTMLInputElement).checked })"
          /><span>{{ text }}</span></label
        >
        <button v-if="lack(code)" class="link" @click="showLack(code)">{{ lack(code) }} do not</button>
      </div>
      <div class="one">
        <label class="line"
          ><span>is tagged</span
          ><input
            v-model="tags"
            class="in"
            aria-label="Tags it must have"
            placeholder="any, or none"
            @change="saveTags"
        /></label>
        <button v-if="lack('tags')" class="link" @click="showLack('tags')">{{ lack('tags') }} are not</button>
      </div>
      <div v-for="unit in used" :key="unit" class="one">
        <label class="line"
          ><span>is no larger than</span
          ><input
            v-typing
            class="in number"
            type="number"
            min="0"
            step="0.5"
            :value="rule.largest?.[unit] ?? ''"
            :aria-label="`Largest size in ${unit}`"
            @change="saveLargest(unit, ($event.target as HTMLInputElement).value)"
          /><span>{{ unit }}</span></label
        >
        <button v-if="unit === used[0] && lack('largest')" class="link" @click="showLack('largest')">
          {{ lack('largest') }} are
        </button>
      </div>
    </fieldset>
    <p v-if="!may" class="quiet small">Program managers set this.</p>
    <h3>Will what blocks them be done in time?</h3>
    <p v-if="!doubtful.length" class="quiet">
      Everything placed can start in its iteration, with odds of 85&nbsp;% or more.
    </p>
    <p v-else class="quiet">
      Chance that all an item needs is done before its iteration starts; those below 85&nbsp;%.
    </p>
    <ul class="starts">
      <li v-for="s in doubtful.slice(0, 40)" :key="s.item">
        <b :class="{ flag: s.chance < 0.5 }">{{ percent(s.chance) }}</b>
        <button
          class="link"
          :title="store.items.get(s.item)?.title"
          @click="((backlog.panel = 'item'), backlog.go(s.item))"
        >
          {{ s.item }} {{ store.items.get(s.item)?.title }}
        </button>
        <span class="quiet">{{ where(s.item) }} · waits for {{ s.blocker }} ({{ percent(s.odds) }})</span>
      </li>
    </ul>
    <div v-if="store.program.settings.ready && may" class="buttons">
      <Button size="small" text label="As usual: a size, a team, needs in time" @click="save(usual)" />
    </div>
  </section>
</template>

<style scoped>
.ready {
  display: grid;
  gap: 8px;
}

p {
  margin: 0;
}

fieldset {
  margin: 0;
  padding: 6px 10px;
  border: 1px solid var(--rule);
  border-radius: 8px;
}

legend {
  color: var(--quiet);
}

.one {
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
  min-height: 30px;
}

.check {
  min-height: 26px;
}

.line {
  display: flex;
  gap: 6px;
  align-items: center;
}

.line .in {
  height: 26px;
  width: 130px;
}

.line .number {
  width: 66px;
}

h3 {
  margin-top: 6px;
  font-size: 14px;
}

.starts {
  display: grid;
  gap: 6px;
  margin: 0;
  padding: 0;
  list-style: none;
}

.starts li {
  display: grid;
  grid-template-columns: 44px 1fr;
}

.starts .quiet {
  grid-column: 2;
  font-size: 12px;
}

.starts .link {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
