<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { answer, client } from '@/api/client'
import type { Mix, MixAsked } from '@/api/types'
import { count, percent } from '@/ui/format'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'

/** What kinds of work a release, an iteration or the selection is made of. */
const store = useProgram()
const backlog = useBacklog()
const scope = ref('')
const mix = shallowRef<Mix>()
const may = computed(() => store.may({ op: 'set', kind: 'program', field: 'mix' }))
const wanted = computed(() => store.program.settings.mix ?? {})
const sum = computed(() => Object.values(wanted.value).reduce((a, b) => a + b, 0))

const iterations = computed(() =>
  (store.program.teams ?? []).flatMap((t) =>
    (t.iterations ?? [])
      .filter((it) => store.iterationFacts.get(t.key, it.key)?.usable)
      .map((it) => ({ value: `i:${t.key}:${it.key}`, label: it.name ?? it.key })),
  ),
)
watch(
  () => store.program.releases,
  (list) => (scope.value ||= list?.[0] ? `r:${list[0].key}` : 's'),
  { immediate: true },
)

const asked = computed<MixAsked>(() => {
  const [what, a, ...rest] = scope.value.split(':')
  if (what === 'r') return { release: [a, ...rest].join(':') }
  if (what === 'i') return { team: a, iteration: rest.join(':') }
  return { items: backlog.selection }
})
let latest = 0
watch(
  [asked, () => store.revision],
  async () => {
    const mine = ++latest
    const found = await answer(
      client.POST('/api/v1/programs/{id}/mix', { params: { path: { id: store.id } }, body: asked.value }),
    ).catch(() => undefined)
    if (found && mine === latest) mix.value = found
  },
  { immediate: true },
)

function want(kind: string, text: string): void {
  const next = { ...wanted.value }
  const share = Math.max(0, Math.min(100, Number(text))) / 100
  if (text.trim() && share >= 0) next[kind] = share
  else delete next[kind]
  void store.apply(`Wanted share of ${kind}`, [{ op: 'set', kind: 'program', field: 'mix', value: next }])
}

/** Pulling an item in gives it the release, or the place, of what is short. */
function pull(key: string): void {
  if (asked.value.release) void backlog.enter([key], 'release', asked.value.release)
  else if (asked.value.iteration) void backlog.enter([key], 'iteration', asked.value.iteration)
}
const kinds = computed(() => mix.value?.kinds ?? [])
const short = computed(() => kinds.value.filter((k) => k.short > 0.005))
</script>

<template>
  <section class="mix" aria-label="Mix">
    <label class="field"
      ><span class="label">Mix of</span>
      <select v-model="scope" class="in" aria-label="Mix of">
        <optgroup label="Release">
          <option v-for="r in store.program.releases" :key="r.key" :value="`r:${r.key}`">{{ r.name }}</option>
        </optgroup>
        <optgroup label="Selection"><option value="s">what is selected</option></optgroup>
        <optgroup label="Iteration">
          <option v-for="it in iterations" :key="it.value" :value="it.value">{{ it.label }}</option>
        </optgroup>
      </select></label
    >
    <p v-if="mix" class="quiet">
      {{ count(mix.items, 'item')
      }}{{ mix.unsized ? `, ${mix.unsized} of them without size or team: they count in number alone` : '' }}.
    </p>
    <table class="table">
      <thead>
        <tr>
          <th>Kind</th>
          <th class="n">Items</th>
          <th class="n">By number</th>
          <th class="n" title="Sizes as the time that their teams take for them">By size</th>
          <th class="n">Wanted</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="k in kinds" :key="k.kind">
          <td>{{ k.kind }}</td>
          <td class="n">{{ k.items }}</td>
          <td class="n">{{ percent(k.counts) }}</td>
          <td class="n">
            <b :class="{ flag: k.short > 0.005 }">{{ percent(k.sizes) }}</b>
          </td>
          <td class="n">
            <input
              v-typing
              class="in"
              type="number"
              min="0"
              max="100"
              step="5"
              :disabled="!may"
              :value="k.target === undefined ? '' : Math.round(100 * k.target)"
              :aria-label="`Wanted share of ${k.kind} in percent`"
              @change="want(k.kind, ($event.target as HTMLInputElement).value)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="sum > 0 && Math.abs(sum - 1) > 0.005" class="quiet small">
      The wanted shares add up to {{ percent(sum) }}.
    </p>
    <div class="bars" aria-hidden="true">
      <span
        v-for="k in kinds.filter((x) => x.sizes > 0)"
        :key="k.kind"
        :class="k.kind"
        :style="{ flexGrow: k.sizes }"
        >{{ k.sizes > 0.12 ? k.kind : '' }}</span
      >
    </div>
    <p v-if="sum > 0 && !short.length" class="quiet">Nothing is short of what is wanted.</p>
    <div v-for="k in short" :key="k.kind" class="short">
      <p>
        <b>{{ k.kind }}</b> is short by {{ percent(k.short) }} of the whole.
        {{ k.candidates.length ? 'The most important that could join:' : 'There is none that could join.' }}
      </p>
      <ul>
        <li v-for="key in k.candidates" :key="key">
          <button class="link" @click="((backlog.panel = 'item'), backlog.go(key))">
            {{ key }} {{ store.items.get(key)?.title }}
          </button>
          <button
            v-if="asked.release || asked.iteration"
            class="chip"
            :aria-label="`Pull ${key} in`"
            @click="pull(key)"
          >
            Pull in
          </button>
        </li>
      </ul>
    </div>
    <p class="quiet small">
      Sizes of different teams cannot be added up: each counts as the time that its team takes for it.
    </p>
  </section>
</template>

<style scoped>
.mix {
  display: grid;
  gap: 8px;
}

p {
  margin: 0;
}

.table td {
  padding: 2px 6px;
}

.table th {
  padding: 4px 6px;
}

td .in {
  width: 58px;
  height: 24px;
  text-align: right;
}

.bars {
  display: flex;
  height: 22px;
  border-radius: 5px;
  overflow: hidden;
  color: var(--on-block);
  font-size: 11px;
}

.bars span {
  flex-basis: 0;
  overflow: hidden;
  padding: 3px 6px;
  white-space: nowrap;
}

.story {
  background: var(--c0);
}
.defect {
  background: var(--c3);
}
.upkeep {
  background: var(--c2);
}
.enabler {
  background: var(--c1);
}
.spike {
  background: var(--c4);
}

ul {
  display: grid;
  gap: 4px;
  margin: 4px 0 0;
  padding: 0;
  list-style: none;
}

li {
  display: flex;
  gap: 6px;
  align-items: center;
  justify-content: space-between;
}

li .link {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

li .chip {
  flex: none;
}
</style>
