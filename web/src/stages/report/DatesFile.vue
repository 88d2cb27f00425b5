<script setup lang="ts">
import { computed, reactive, ref, shallowRef } from 'vue'
import { answer, client } from '@/api/client'
import { ofLine } from '@/api/inView'
import type { DateFeed } from '@/api/types'
import { useProgram } from '@/line/program'
import { timeText } from '@/ui/dates'
import MadeLink from '@/ui/MadeLink.vue'
import { useAttempt } from '@/ui/useAttempt'

/** Dates for a calendar: as a file, or at a private address that the calendar asks by itself. */
const store = useProgram()
const { failure, attempt } = useAttempt()
const what = reactive({ iterations: true, releases: true, milestones: true, mine: true })
const names: Record<string, string> = {
  iterations: 'iterations',
  releases: 'due dates of releases',
  milestones: 'milestones',
  mine: 'what is due of mine',
}
const chosen = computed(() =>
  Object.entries(what)
    .filter(([, on]) => on)
    .map(([name]) => name),
)
const href = computed(() =>
  ofLine(
    `/api/v1/programs/${store.id}/reports/dates?${chosen.value.map((name) => `what=${name}`).join('&')}`,
  ),
)

const feeds = shallowRef<DateFeed[]>()
const made = ref('')
const path = () => ({ id: store.id })
async function bring(): Promise<void> {
  feeds.value = await answer(client.GET('/api/v1/programs/{id}/date-feeds', { params: { path: path() } }))
}
void attempt(bring)
const make = () =>
  attempt(async () => {
    const body = { what: chosen.value as ('iterations' | 'releases' | 'milestones' | 'mine')[] }
    const feed = await answer(
      client.POST('/api/v1/programs/{id}/date-feeds', { params: { path: path() }, body }),
    )
    made.value = `${window.location.origin}${feed.path}`
    await bring()
  })
const end = (feed: number) =>
  attempt(async () => {
    await answer(
      client.DELETE('/api/v1/programs/{id}/date-feeds/{feed}', { params: { path: { ...path(), feed } } }),
    )
    made.value = ''
    await bring()
  })
const told = (f: DateFeed) =>
  `${f.what.map((w) => names[w]).join(', ')}; made ${timeText(f.madeAt)}, ${f.readAt ? `fetched last ${timeText(f.readAt)}` : 'not fetched yet'}`
</script>

<template>
  <div role="group" aria-label="Dates for a calendar">
    <h2>Dates for a calendar</h2>
    <div class="does">
      <p>As events of whole days: a file, or a private address that a calendar asks by itself.</p>
      <label v-for="(name, key) in names" :key="key" class="check"
        ><input v-model="what[key as keyof typeof what]" type="checkbox" /> {{ name }}</label
      >
      <a
        v-if="chosen.length"
        class="chip link-chip"
        :href="href"
        download
        aria-label="Dates for a calendar as iCalendar"
        >iCalendar</a
      >
      <span v-else class="chip link-chip off" aria-disabled="true">iCalendar</span>
      <button class="chip" :disabled="!chosen.length" @click="make">Make a private address</button>
      <div v-if="made" class="made"><MadeLink :value="made" /></div>
      <ul v-if="feeds?.length" class="links-in" aria-label="Your addresses">
        <li v-for="f in feeds" :key="f.id">
          <span>{{ told(f) }}</span>
          <button class="link" @click="end(f.id)">End it</button>
        </li>
      </ul>
      <p v-if="failure" role="alert" class="failure">{{ failure }}</p>
    </div>
  </div>
</template>

<style scoped>
h2 {
  margin: 0;
  font: 600 16px/1.4 var(--heading);
}

.does {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
}

.does p,
.made,
ul {
  flex-basis: 100%;
  margin: 0;
}

.off {
  color: var(--quiet);
  cursor: not-allowed;
}
</style>
