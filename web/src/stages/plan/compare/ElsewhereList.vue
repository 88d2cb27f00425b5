<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Comparison } from '@/api/types'
import { useProgram } from '@/line/program'
import { count } from '@/ui/format'

/** The items that do not stand at the same place in all lines, with the edit that put them there. */
const props = defineProps<{ comparison: Comparison }>()
const store = useProgram()
const c = computed(() => props.comparison)

const words = ref('')
const team = ref('')
const release = ref('')
const listed = 300
const shown = computed(() =>
  c.value.items.filter(
    (x) =>
      (!team.value || x.team === team.value) &&
      (!release.value || x.release === release.value) &&
      `${x.key} ${x.title}`.toLowerCase().includes(words.value.trim().toLowerCase()),
  ),
)
const whys = computed(() => {
  const found = new Map<string, string>()
  for (const w of c.value.whys) if (!found.has(w.item)) found.set(w.item, `${w.label} · ${w.by}`)
  return found
})

const lineOf = (i: number) => {
  const side = c.value.sides[i]
  if (side?.scenario) return `scenario-${side.scenario}`
  return side?.at ? `past-${side.at}` : ''
}
/** The item in one of the lines. */
const toItem = (key: string, i: number) => ({
  name: 'backlog',
  params: { id: store.id, line: lineOf(i) },
  query: { item: key },
})
</script>

<template>
  <div class="find">
    <h2>{{ count(c.items.length + (c.more ?? 0), 'item stands', 'items stand') }} elsewhere</h2>
    <template v-if="c.items.length">
      <input v-model="words" class="in" placeholder="Find: words or keys" aria-label="Find among them" />
      <select v-model="team" class="in" aria-label="Team">
        <option value="">Any team</option>
        <option v-for="t in store.program.teams" :key="t.key" :value="t.key">{{ t.name }}</option>
      </select>
      <select v-model="release" class="in" aria-label="Release">
        <option value="">Any release</option>
        <option v-for="r in store.program.releases" :key="r.key" :value="r.key">{{ r.name }}</option>
      </select>
    </template>
  </div>
  <table v-if="shown.length" class="table">
    <thead>
      <tr>
        <th>Item</th>
        <th v-for="side in c.sides" :key="side.of">{{ side.name }}</th>
        <th>Why</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="x in shown.slice(0, listed)" :key="x.key">
        <th scope="row">
          {{ x.key }} <span class="title">{{ x.title }}</span>
        </th>
        <td v-for="(s, i) in x.of" :key="i">
          <RouterLink v-if="s.stand !== 'absent'" class="link" :to="toItem(x.key, i)">{{
            s.stand === 'placed' ? s.name : s.stand
          }}</RouterLink>
          <span v-else class="quiet">not there</span>
          <span v-if="s.later" class="quiet small">
            {{ count(Math.abs(s.later), 'day') }} {{ s.later > 0 ? 'later' : 'sooner' }}</span
          >
        </td>
        <td class="quiet small">{{ whys.get(x.key) }}</td>
      </tr>
    </tbody>
  </table>
  <p v-if="shown.length > listed || c.more" class="quiet">
    {{ shown.length - Math.min(listed, shown.length) + (c.more ?? 0) }} more: narrow them down, or export.
  </p>
</template>

<style scoped src="./compare.css"></style>

<style scoped>
.title {
  font-weight: 400;
}

.find {
  display: flex;
  gap: 10px;
  align-items: center;
  margin-bottom: 6px;
}

.find h2 {
  flex: none;
  margin: 0;
  font-size: 16px;
}
</style>
