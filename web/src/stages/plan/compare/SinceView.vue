<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answer as answerOf, client } from '@/api/client'
import type { Since } from '@/api/types'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'
import { useAnswer } from '@/line/useAnswer'
import DateField from '@/ui/DateField.vue'
import { asDate, shortDay, timeText, toDay } from '@/ui/dates'
import { count, percent } from '@/ui/format'

/** What became of the plan since a baseline or a day: sums that add up, each leading to its items. */
const store = useProgram()
const scenarios = useScenarios()
const route = useRoute()
const router = useRouter()
void scenarios.load()

const text = (name: string) => String(route.query[name] ?? '')
const of = computed(() => text('of'))
const release = computed(() => text('release'))
const team = computed(() => text('team'))
const feature = computed(() => text('feature'))
const what = computed(() => text('what'))
const go = (query: Record<string, string | undefined>) => router.push({ query: { ...route.query, ...query } })

const { answer, failure, asking } = useAnswer(
  () =>
    of.value
      ? answerOf(
          client.GET('/api/v1/programs/{id}/since', {
            params: {
              path: { id: store.id },
              query: {
                of: of.value,
                release: release.value || undefined,
                team: team.value || undefined,
                feature: feature.value || undefined,
              },
            },
          }),
        )
      : undefined,
  [of, release, team, feature, () => store.revision],
  { forget: ([now], [before]) => now !== before },
)
const s = computed<Since | undefined>(() => answer.value)

/** A day to look back to. */
const day = ref(/^\d{4}-/.test(of.value) ? of.value : '')
watch(day, (date) => {
  if (date && date !== of.value) void go({ of: date, what: undefined })
})
const choose = (name: string) => {
  if (name) void go({ of: name, what: undefined })
}

const words: Record<string, string> = {
  added: 'Added',
  removed: 'Removed',
  'came in': 'Came in',
  'went out': 'Went out',
  grew: 'Grew',
  shrank: 'Shrank',
  later: 'Later, or not placed',
  sooner: 'Sooner, or placed',
  done: 'Done',
  reopened: 'Reopened',
}
const features = computed(() =>
  (store.program.items ?? []).filter((x) => x.kind === 'feature' || x.kind === 'initiative'),
)
const unit = (key: string) => store.teams.get(key)?.unit ?? ''
const short: Record<string, string> = { points: 'pt', days: 'd', hours: 'h' }
const sized = (key: string, n: number) => `${+n.toFixed(1)} ${short[unit(key)] ?? unit(key)}`.trim()
const teamName = (key: string) => store.teams.get(key)?.name ?? (key || 'no team')
const teamsOf = (sum: Since['sums'][number]) =>
  sum.teams
    .filter((t) => t.size)
    .map(
      (t) =>
        `${t.team || 'no team'} ${t.size > 0 && (sum.what === 'grew' || sum.what === 'shrank') ? '+' : ''}${sized(t.team, t.size).replace('-', '−')}${t.share ? ` (${percent(Math.abs(t.share))})` : ''}`,
    )
    .join(' · ')
const total = (list: Since['then']) => list.reduce((n, t) => n + t.items, 0)
const doneOf = (list: Since['then']) => list.reduce((n, t) => n + t.done, 0)
/** Teams with what they had, and have. */
const byTeam = computed(() => {
  const keys = [...new Set([...(s.value?.then ?? []), ...(s.value?.now ?? [])].map((t) => t.team))]
  return keys.map((key) => ({
    key,
    then: s.value?.then.find((t) => t.team === key),
    now: s.value?.now.find((t) => t.team === key),
  }))
})
/** What the path of total, done and left is of, as Track names it. */
const path = computed(() => {
  if (feature.value) return `item:${feature.value}`
  if (release.value) return `release:${release.value}`
  return team.value ? `team:${team.value}` : 'all'
})
const listed = 300
const items = computed(() => (s.value?.items ?? []).filter((x) => !what.value || x.what === what.value))
const fromTo = (x: Since['items'][number]) => {
  const sizes = x.what === 'grew' || x.what === 'shrank'
  if (x.from && x.to) return `${x.from} → ${sizes ? sized(x.team, Number(x.to)) : x.to}`
  return x.to ? `in ${x.to}` : x.from ? `was in ${x.from}` : ''
}
const moment = computed(() => {
  if (!s.value) return ''
  const on = shortDay(toDay(s.value.of.day), store.todayDay)
  return s.value.of.name === s.value.of.of ? on : `${s.value.of.name}, ${on}`
})
</script>

<template>
  <main class="side-by-side" aria-label="Since then">
    <div class="toolbar" data-region role="toolbar" aria-label="Since when, and of what">
      <RouterLink class="chip link-chip" :to="{ query: {} }"
        ><i class="pi pi-arrow-left" aria-hidden="true" /> The plan</RouterLink
      >
      <label for="since-what" class="quiet">Since</label>
      <select
        id="since-what"
        class="in"
        :value="of.startsWith('baseline-') ? of : ''"
        @change="choose(($event.target as HTMLSelectElement).value)"
      >
        <option value="">a baseline…</option>
        <option v-for="b in scenarios.baselines" :key="b.id" :value="`baseline-${b.id}`">{{ b.name }}</option>
      </select>
      <label for="since-day" class="quiet">or the end of</label>
      <DateField id="since-day" v-model="day" />
      <span class="gap" />
      <select
        class="in"
        aria-label="Release"
        :value="release"
        @change="go({ release: ($event.target as HTMLSelectElement).value || undefined })"
      >
        <option value="">All releases</option>
        <option v-for="r in store.program.releases" :key="r.key" :value="r.key">{{ r.name }}</option>
      </select>
      <select
        class="in"
        aria-label="Team"
        :value="team"
        @change="go({ team: ($event.target as HTMLSelectElement).value || undefined })"
      >
        <option value="">All teams</option>
        <option v-for="t in store.program.teams" :key="t.key" :value="t.key">{{ t.name }}</option>
      </select>
      <select
        class="in feature"
        aria-label="Feature"
        :value="feature"
        @change="go({ feature: ($event.target as HTMLSelectElement).value || undefined })"
      >
        <option value="">All features</option>
        <option v-for="f in features" :key="f.key" :value="f.key">{{ f.key }} {{ f.title }}</option>
      </select>
    </div>
    <div class="beside" tabindex="0" aria-label="What became of it">
      <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
      <p v-else-if="!of" class="quiet">Choose a baseline, or a day, to see what became of the plan since.</p>
      <p v-else-if="!s" role="status">Looking through what was changed…</p>
      <template v-else>
        <h1>Since {{ moment }}</h1>
        <p>
          {{ count(total(s.then), 'item') }} then, {{ total(s.now) }} now; {{ doneOf(s.then) }} were done,
          {{ doneOf(s.now) }} are.
          <RouterLink
            class="link"
            :to="{
              name: 'track',
              params: { id: store.id },
              query: { as: 'scope', of: path, since: s.of.day },
            }"
            >The path of total, done and left</RouterLink
          >
          <span v-if="asking" class="quiet small" role="status">Looking…</span>
        </p>
        <div class="pair">
          <table class="table">
            <thead>
              <tr>
                <th>What became</th>
                <th class="n">Items</th>
                <th class="n">of all</th>
                <th>Sizes by team, and their share</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="sum in s.sums" :key="sum.what" :class="{ chosen: what === sum.what }">
                <td>{{ words[sum.what] }}</td>
                <td class="n">
                  <button
                    class="link"
                    :aria-pressed="what === sum.what"
                    :aria-label="`${words[sum.what]}: ${sum.items}, list these`"
                    @click="go({ what: what === sum.what ? undefined : sum.what })"
                  >
                    {{ sum.items }}
                  </button>
                </td>
                <td class="n">{{ percent(sum.share) }}</td>
                <td class="small">{{ teamsOf(sum) }}</td>
              </tr>
              <tr v-if="!s.sums.length">
                <td colspan="4" class="quiet">Nothing became of it.</td>
              </tr>
            </tbody>
          </table>
          <table class="table">
            <thead>
              <tr>
                <th>Team</th>
                <th class="n">Then</th>
                <th class="n">Now</th>
                <th class="n">Done then</th>
                <th class="n">now</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="t in byTeam" :key="t.key">
                <td>{{ teamName(t.key) }}</td>
                <td class="n">{{ sized(t.key, t.then?.size ?? 0) }}</td>
                <td class="n">{{ sized(t.key, t.now?.size ?? 0) }}</td>
                <td class="n">{{ sized(t.key, t.then?.doneSize ?? 0) }}</td>
                <td class="n">{{ sized(t.key, t.now?.doneSize ?? 0) }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <table v-if="items.length" class="table">
          <thead>
            <tr>
              <th>Item</th>
              <th>What became</th>
              <th />
              <th class="n">Work</th>
              <th>Who, when</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="x in items.slice(0, listed)" :key="`${x.key} ${x.what}`">
              <td>
                <RouterLink
                  v-if="x.what !== 'removed'"
                  class="link"
                  :to="{ name: 'backlog', params: { id: store.id }, query: { item: x.key } }"
                  >{{ x.key }}</RouterLink
                >
                <b v-else>{{ x.key }}</b>
                {{ x.title }}
              </td>
              <td>{{ words[x.what] }}</td>
              <td>{{ fromTo(x) }}</td>
              <td class="n">
                {{ x.size === undefined ? 'no size' : sized(x.team, x.size).replace('-', '−') }}
              </td>
              <td class="quiet small">
                {{ x.by ? `${x.by}, ${timeText(x.at ?? '', asDate(store.todayDay))}` : '' }}
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="items.length > listed || s.more" class="quiet">
          {{ Math.max(0, items.length - listed) + (s.more ?? 0) }} more: choose a release, a team or a
          feature.
        </p>
      </template>
    </div>
  </main>
</template>

<style scoped src="./compare.css"></style>

<style scoped>
.toolbar select {
  width: 150px;
}

.toolbar :deep(input) {
  width: 128px;
}

h1 {
  margin: 0;
  font-size: 20px;
}

.pair {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 24px;
  align-items: start;
  margin-bottom: 16px;
}
</style>
