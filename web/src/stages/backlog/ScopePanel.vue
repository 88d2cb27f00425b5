<script setup lang="ts">
import { shallowRef, watch } from 'vue'
import { answer, client } from '@/api/client'
import type { Group } from '@/api/types'
import { shortDate } from '@/ui/dates'
import { amount, count, percent, sized } from '@/ui/format'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import { rowDrag } from './useRowDrag'

/** How large each release is; items are dragged onto one to join it. */
const store = useProgram()
const backlog = useBacklog()
const groups = shallowRef<Group[]>([])
watch(
  () => store.revision,
  async () => {
    const found = await answer(
      client.POST('/api/v1/programs/{id}/backlog', {
        params: { path: { id: store.id } },
        body: { view: { key: 'scope', name: 'Scope', group: 'release' } },
      }),
    ).catch(() => undefined)
    if (found) groups.value = found.groups ?? []
  },
  { immediate: true },
)
const of = (key: string) => groups.value.find((g) => g.value === key)

function show(key: string, name: string): void {
  backlog.show({
    key: '',
    name,
    filter: {
      conditions: [key ? { field: 'release', is: 'is', values: [key] } : { field: 'release', is: 'empty' }],
    },
  })
}
const places = () => [
  ...(store.program.releases ?? []).map((r) => ({ key: r.key, name: r.name, due: r.due })),
  { key: '', name: 'No release', due: undefined },
]
</script>

<template>
  <section class="scope" aria-label="Release scope">
    <p class="quiet">Drag items onto a release, or onto none, to change what it holds.</p>
    <article
      v-for="r in places()"
      :key="r.key"
      :data-release="r.key"
      :class="['release', { drop: rowDrag.over === 'release:' + r.key }]"
    >
      <header>
        <button class="link" @click="show(r.key, r.name)">
          <b>{{ r.name }}</b>
        </button>
        <span class="quiet">{{ r.due ? `due ${shortDate(r.due, store.todayDay)}` : '' }}</span>
      </header>
      <template v-if="of(r.key)?.items">
        <p>
          {{ count(of(r.key)!.items, 'item') }} · {{ of(r.key)!.done }} done ({{
            percent(of(r.key)!.done / of(r.key)!.items)
          }}) · {{ of(r.key)!.unsized ?? 0 }} without size · {{ of(r.key)!.unplaced ?? 0 }} unplaced
        </p>
        <table class="table">
          <thead>
            <tr>
              <th>Team</th>
              <th class="n">Size</th>
              <th class="n">Done</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in of(r.key)!.sizes" :key="s.team">
              <td>{{ store.teams.get(s.team)?.name ?? 'no team' }}</td>
              <td class="n">{{ sized(s.size, store.teams.get(s.team)) }}</td>
              <td class="n">{{ amount(s.done) }}</td>
            </tr>
          </tbody>
        </table>
      </template>
      <p v-else class="quiet">Holds nothing.</p>
    </article>
  </section>
</template>

<style scoped>
.scope {
  display: grid;
  gap: 10px;
}

p {
  margin: 0;
}

.release {
  display: grid;
  gap: 4px;
  padding: 8px 10px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--panel);
}

.release.drop {
  box-shadow: inset 0 0 0 2px var(--focus);
  background: var(--basin);
}

header {
  display: flex;
  justify-content: space-between;
}

.table td {
  padding: 2px 8px;
}
</style>
