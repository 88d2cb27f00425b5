<script setup lang="ts">
import { fetched } from '@/api/client'
import { ofLine } from '@/api/inView'
import Popover from 'primevue/popover'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { OwedNeed } from '@/api/types'
import { shortDate } from '@/ui/dates'
import { count } from '@/ui/format'
import { pngOfText, saveFile } from '@/ui/saveFile'
import { caughtUp } from '@/line/useAnswer'
import { stillHere } from '@/ui/stillHere'
import type { NeedWord } from '@/line/needWords'
import { useProgram } from '@/line/program'
import ChainsView from './ChainsView.vue'
import NeedsMap from './NeedsMap.vue'
import NeedsWeeks from './NeedsWeeks.vue'
import MilestoneNeeds from './MilestoneNeeds.vue'
import NeedsTable from './NeedsTable.vue'
import OwedList from './OwedList.vue'
import OwedSides from './OwedSides.vue'
import { useOwed } from './useOwed'
import { useShow } from './useShow'

/** The map of needs: who owes whom, and beside it what. */
const store = useProgram()
const router = useRouter()
const { gives, waits, week, show, of, work, looked, look, map, owed, chance, teams, cell, name, words, say } =
  useOwed()
const sum = computed(() => (map.answer.value?.cells ?? []).reduce((n, c) => n + c.needs, 0))
const list = computed(() => owed.answer.value?.owed ?? [])
const title = computed(() => {
  const within = week.value ? `, in the week of ${shortDate(week.value, store.todayDay)}` : ''
  if (within && gives.value) return `What ${name(gives.value)} gives${within}`
  if (within && waits.value) return `What ${name(waits.value)} waits for${within}`
  if (gives.value && waits.value) return `${name(gives.value)} gives ${name(waits.value)}`
  if (gives.value) return `What ${name(gives.value)} gives`
  if (waits.value) return `What ${name(waits.value)} waits for`
  return 'All needs between teams'
})
const counts = computed(() => {
  if (week.value) return count(list.value.length, 'need')
  const looked = (map.answer.value?.cells ?? []).filter(
    (c) => (!gives.value || c.gives === gives.value) && (!waits.value || c.waits === waits.value),
  )
  const all = (of: 'needs' | 'broken' | 'open' | 'soon') => looked.reduce((n, c) => n + c[of], 0)
  return [
    count(all('needs'), 'need'),
    all('broken') && `${all('broken')} broken`,
    all('open') && `${all('open')} not agreed`,
    all('soon') && `${all('soon')} wanted within three weeks`,
  ]
    .filter(Boolean)
    .join(' · ')
})
/** The needs that are listed, as files. */
const files = [
  { format: 'csv', name: 'CSV', what: 'a table, for a spreadsheet' },
  { format: 'ics', name: 'iCalendar', what: 'the days by which they are due' },
  { format: 'dot', name: 'DOT', what: 'a graph of items by team' },
  { format: 'mermaid', name: 'Mermaid', what: 'the same, as text for documents' },
  { format: 'graphml', name: 'GraphML', what: 'the same, for graph editors' },
  { format: 'svg', name: 'SVG', what: 'a picture of who owes whom' },
]
const showItem = useShow()
const menu = ref<InstanceType<typeof Popover>>()
const fileOf = (format: string) => {
  const query = new URLSearchParams({ format })
  for (const [name, value] of Object.entries(looked().query)) if (value) query.set(name, String(value))
  return ofLine(`/api/v1/programs/${store.id}/reports/needs?${query.toString()}`)
}
/** The picture as the server draws it, on paper. */
async function png(): Promise<void> {
  const svg = await fetched(fileOf('svg'), {}).then(
    (response) => response.text(),
    () => '',
  )
  const [, width, height] = /width="(\d+)" height="(\d+)"/.exec(svg) ?? []
  if (!width) {
    store.notice = { text: 'The picture could not be made.', severity: 'error' }
    return
  }
  saveFile('needs.png', await pngOfText({ svg, width: Number(width), height: Number(height) }, '#fffdf8'))
}
/** The focus stays with the need that was agreed to: its button goes. */
async function said(o: OwedNeed, word: NeedWord, with_: { date?: string; why?: string }): Promise<void> {
  const list = document.activeElement?.closest('section')
  const at = document.activeElement?.closest('li')
  const still = stillHere()
  const index = at ? [...at.parentElement!.children].indexOf(at) : -1
  if (!(await say(o, word, with_))) return
  await caughtUp(owed.answer, () => store.revision)
  if (!still()) return
  list?.querySelectorAll<HTMLElement>('li')[index]?.querySelector<HTMLElement>('.does button, .link')?.focus()
}
</script>

<template>
  <main class="needs" aria-label="Needs">
    <h1 class="visually-hidden">Needs of {{ store.program.name }}</h1>
    <div class="tools" data-region role="toolbar" aria-label="Plan">
      <button
        class="chip"
        aria-pressed="false"
        @click="router.push({ name: 'plan', params: { id: store.id } })"
      >
        Lanes
      </button>
      <button class="chip" aria-pressed="true">Needs</button>
      <span class="quiet">show</span>
      <button class="chip" :aria-pressed="show === 'map'" @click="look({ gives, waits }, 'map')">
        Who owes whom
      </button>
      <button class="chip" :aria-pressed="show === 'when'" @click="look({}, 'when')">When</button>
      <button class="chip" :aria-pressed="show === 'chains'" @click="look({}, 'chains')">Chains</button>
      <button class="chip" :aria-pressed="show === 'table'" @click="look({}, 'table')">As a table</button>
      <button class="chip" :aria-pressed="show === 'owed'" @click="look({}, 'owed')">
        Owed and waited for
      </button>
      <span class="gap" />
      <button v-if="gives || waits" class="chip" @click="look({})">All needs</button>
      <button
        v-if="teams.length && show !== 'chains' && show !== 'table'"
        class="chip"
        aria-haspopup="dialog"
        @click="menu?.toggle($event)"
      >
        Export…
      </button>
      <Popover ref="menu" aria-label="Export the needs that are listed">
        <ul class="files">
          <li v-for="f in files" :key="f.format">
            <a :href="fileOf(f.format)" download>{{ f.name }}</a>
            <span class="quiet small">{{ f.what }}</span>
          </li>
          <li>
            <button class="link" @click="png">PNG</button>
            <span class="quiet small">the same, as a picture of points</span>
          </li>
        </ul>
      </Popover>
    </div>
    <p v-if="map.failure.value" role="alert" class="failure">{{ map.failure.value }}</p>
    <NeedsTable v-if="show === 'table'" @show="showItem" />
    <ChainsView
      v-else-if="show === 'chains'"
      :of="work"
      @of="(chosen) => look({ of: chosen })"
      @show="showItem"
    />
    <div v-else-if="map.answer.value" :class="{ map: 'both', when: 'above', owed: 'lists' }[show]">
      <template v-if="show === 'owed'">
        <p v-if="owed.failure.value" role="alert" class="failure">{{ owed.failure.value }}</p>
        <OwedSides
          v-if="owed.answer.value"
          :owed="list"
          :of="of"
          :name="name"
          :chance="chance"
          :words="words"
          @say="said"
          @of="(chosen) => look(chosen)"
        />
      </template>
      <section v-else-if="show === 'when' && teams.length" aria-label="When">
        <h2>When</h2>
        <p class="quiet small">
          What each team gives others, and what it waits for, by the week in which it is wanted.
        </p>
        <NeedsWeeks
          :weeks="map.answer.value.weeks"
          :name="name"
          :gives="gives"
          :waits="waits"
          :week="week"
          @look="look"
        />
      </section>
      <section v-else aria-label="Who owes whom">
        <h2>Who owes whom</h2>
        <p class="quiet small">
          Down: the team that gives. Across: the team that waits. {{ count(sum, 'need') }} between teams are
          open.
        </p>
        <NeedsMap
          v-if="teams.length"
          :teams="teams"
          :name="name"
          :cell="cell"
          :gives="gives"
          :waits="waits"
          @look="look"
        />
        <p v-else>No team waits for another.</p>
        <MilestoneNeeds
          :needs="map.answer.value.milestones"
          :cycles="map.answer.value.cycles"
          @show="showItem"
        />
      </section>
      <section v-if="show !== 'owed' && teams.length" class="owed" tabindex="0" :aria-label="title">
        <h2>{{ title }}</h2>
        <p class="quiet small" role="status">{{ counts }}</p>
        <p v-if="owed.failure.value" role="alert" class="failure">{{ owed.failure.value }}</p>
        <OwedList :owed="list" :name="name" :chance="chance" :words="words" @say="said" />
        <p v-if="owed.answer.value?.leftOut" class="quiet">
          {{ count(owed.answer.value.leftOut, 'need') }} more: choose a cell.
        </p>
      </section>
    </div>
  </main>
</template>

<style scoped>
.needs {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}

.tools {
  display: flex;
  flex: none;
  gap: 6px;
  padding: 5px 16px;
  border-bottom: 1px solid var(--rule);
}

.gap {
  flex: 1;
}

.tools .quiet {
  align-self: center;
  margin-left: 14px;
}

.both {
  display: grid;
  flex: 1;
  grid-template-columns: minmax(0, auto) minmax(420px, 1fr);
  min-height: 0;
}

section {
  min-width: 0;
  padding: 10px 16px;
  overflow: auto;
}

.lists {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}

.above {
  display: grid;
  flex: 1;
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
}

.above .owed {
  border-top: 1px solid var(--rule);
  border-left: 0;
}

.owed {
  border-left: 1px solid var(--rule);
}

h2 {
  margin: 0;
  font-size: 16px;
}

.files {
  display: grid;
  gap: 8px;
  margin: 0;
  padding: 0;
  list-style: none;
}

.files a,
.files button {
  display: inline-block;
  min-width: 76px;
  color: inherit;
  font-weight: 600;
  text-align: left;
}

h2 + p {
  margin: 0 0 10px;
}
</style>
