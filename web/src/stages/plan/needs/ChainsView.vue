<script setup lang="ts">
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import type { NeedsChain } from '@/api/types'
import { amount, count, percent } from '@/ui/format'
import { shortDate } from '@/ui/dates'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import WorkPick from '@/views/WorkPick.vue'
import { useWork } from '@/views/work'
import { chainsPicture } from './picture'
import { savePicture } from './savePicture'

/** The longest chains of needs that some work ends with, drawn in their time, and how often the plays hang on each item. */
const props = defineProps<{ of: string }>()
const emit = defineEmits<{ of: [of: string]; show: [item: string] }>()
const store = useProgram()
const work = useWork(() => props.of, { milestones: true })
/** Any item may be asked about, by a link. */
const item = computed(() => {
  const key = /^item:(.+)/.exec(props.of)?.[1]
  return key ? store.items.get(key) : undefined
})
const chosen = computed({
  get: () => (item.value ? `item:${item.value.key}` : work.of.value),
  set: (value) => emit('of', value),
})
const groups = computed(() => {
  const one = item.value
  const known = !one || work.groups.value.some((g) => g.of.some(([v]) => v === chosen.value))
  return known
    ? work.groups.value
    : [
        ...work.groups.value,
        { title: 'Item', of: [[chosen.value, `${one.key} ${one.title}`] as [string, string]] },
      ]
})
const { answer: found, failure } = useAnswer(
  (signal) =>
    store.id
      ? answer(
          client.POST('/api/v1/programs/{id}/forecast/chains', {
            params: { path: { id: store.id } },
            body: item.value ? { item: item.value.key } : work.scope.value,
            signal,
          }),
        )
      : undefined,
  [() => store.id, () => store.revision, () => store.today, chosen],
  { wait: 50, forget: ([id, , , now], [before, , , was]) => id !== before || now !== was },
)
const days = (n: number) => `${amount(n)} ${amount(n) === '1' ? 'day' : 'days'}`
const plays = (share: number) => `${Math.round(100 * share)} of 100`
const title = (key: string) => store.items.get(key)?.title ?? ''
const team = (key: string) => store.teams.get(store.items.get(key)?.team ?? '')?.name ?? ''
const teams = (chain: NeedsChain) => new Set(chain.links.map((l) => store.items.get(l.item)?.team)).size
/** The longest is as wide as there is room. */
const most = computed(() => Math.max(1e-9, ...(found.value?.chains ?? []).map((c) => c.days)))
/** Each link where it lies in its chain, in percent. */
function stairs(chain: NeedsChain) {
  let at = 0
  return chain.links.map((link) => {
    const left = at + link.gap
    at = left + link.days
    return {
      link,
      bar: { left: `${(100 * left) / most.value}%`, width: `max(3px, ${(100 * link.days) / most.value}%)` },
      gained: gained(link),
    }
  })
}
function gained({ gained }: NeedsChain['links'][number]): string {
  if (!gained) return ''
  const sooner =
    Math.abs(gained.days) < 0.05
      ? 'no day'
      : `${days(Math.abs(gained.days))} ${gained.days > 0 ? 'earlier' : 'later'}`
  const points = Math.round(100 * (gained.chance ?? 0))
  return points ? `${sooner}, ${points > 0 ? '+' : '−'}${count(Math.abs(points), 'point')}` : sooner
}
const heading = (chain: NeedsChain, n: number) =>
  `${['The longest chain', 'Next, sharing none of it', 'Then, sharing none of both'][n]}: ${days(chain.days)}`
const spare = (n: number) => (n < 0 ? `broken by ${count(-n, 'day')}` : count(n, 'day'))
const picture = (form: 'svg' | 'png') =>
  void savePicture('chains', form, (ink) => chainsPicture(found.value!.chains, heading, title, ink))
</script>

<template>
  <div class="chains" tabindex="0" role="region" aria-label="Chains">
    <div class="head">
      <h2>Chains of needs</h2>
      <label>that end with <WorkPick v-model="chosen" :groups="groups" /></label>
      <span class="gap" />
      <template v-if="found?.chains.length">
        <span class="quiet small">as a picture</span>
        <button class="chip" aria-label="Save the chains as SVG" @click="picture('svg')">SVG</button>
        <button class="chip" aria-label="Save the chains as PNG" @click="picture('png')">PNG</button>
      </template>
    </div>
    <p v-if="failure" role="alert" class="failure">{{ failure }}</p>
    <p v-else-if="!found" class="quiet" role="status">Playing…</p>
    <p v-else-if="!found.chains.length">Nothing of it is still to be done.</p>
    <template v-else>
      <p class="quiet">
        Each item waits for the one before it. Its days are its size at its team's velocity, with nobody short
        of people; how often it is critical, and what a working day less of it is worth{{
          found.by ? ` by ${shortDate(found.by, store.todayDay)}` : ''
        }}, is played with all that the forecast knows.
      </p>
      <section v-for="(chain, n) in found.chains" :key="n" :aria-label="heading(chain, n)">
        <h3>
          {{ heading(chain, n) }}
          <span class="quiet small"
            >{{ count(chain.links.length, 'item') }} of {{ count(teams(chain), 'team') }}</span
          >
        </h3>
        <table class="stairs">
          <thead>
            <tr>
              <th scope="col">Item</th>
              <th scope="col" class="time">In the time of the chain</th>
              <th scope="col" class="n">Days</th>
              <th scope="col" class="n">Spare before</th>
              <th scope="col" class="n">Critical plays</th>
              <th scope="col" class="worth">{{ n === 0 ? 'A working day less' : '' }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in stairs(chain)" :key="s.link.item">
              <th scope="row">
                <button class="link" @click="emit('show', s.link.item)">{{ s.link.item }}</button>
                <span class="name" :title="title(s.link.item)">{{ title(s.link.item) }}</span>
                <span class="quiet small team">{{ team(s.link.item) }}</span>
              </th>
              <td class="time">
                <span class="bar" :class="{ assumed: !s.link.sized }" :style="s.bar" />
              </td>
              <td class="n" :title="s.link.sized ? '' : 'Without a size: at the mean of its team'">
                {{ amount(s.link.days) }}{{ s.link.sized ? '' : '?' }}
              </td>
              <td class="n" :class="{ broken: (s.link.spare ?? 0) < 0 }">
                {{ s.link.spare === undefined ? '' : spare(s.link.spare) }}
              </td>
              <td class="n">{{ plays(s.link.critical) }}</td>
              <td class="worth">{{ s.gained }}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <section v-if="found.critical.length" aria-label="Most often critical">
        <h3>
          Most often critical
          <span class="quiet small">on the last chain to finish, of {{ count(found.plays, 'play') }}</span>
        </h3>
        <ul class="often">
          <li v-for="c in found.critical" :key="c.item">
            <button class="link" @click="emit('show', c.item)">{{ c.item }}</button>
            <span class="name">{{ title(c.item) }}</span>
            <span class="bar" aria-hidden="true" :style="{ width: `${90 * c.share}px` }" />
            <span>{{ percent(c.share) }}</span>
          </li>
        </ul>
      </section>
    </template>
  </div>
</template>

<style scoped>
.chains {
  flex: 1;
  min-height: 0;
  padding: 10px 16px;
  overflow: auto;
}

.head {
  display: flex;
  gap: 12px;
  align-items: baseline;
}

.gap {
  flex: 1;
}

label {
  display: flex;
  white-space: nowrap;
  gap: 8px;
  align-items: center;
}

h2 {
  margin: 0;
  font-size: 16px;
}

h3 {
  margin: 0 0 4px;
  font-size: 15px;
}

h3 .quiet {
  margin-left: 6px;
  font-weight: 400;
}

section {
  margin-top: 14px;
}

.stairs {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}

.stairs th,
.stairs td {
  padding: 4px 8px;
  border-bottom: 1px solid var(--rule);
  font-weight: 400;
  text-align: left;
}

.stairs thead th {
  color: var(--quiet);
  font-size: 12px;
}

.stairs th:first-child {
  width: 32%;
  padding-left: 0;
}

.stairs .n {
  width: 96px;
  text-align: right;
}

.stairs .worth {
  width: 196px;
  padding-left: 24px;
  white-space: nowrap;
}

tbody th {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.link {
  font-weight: 650;
}

.name {
  margin-left: 6px;
}

.team {
  margin-left: 8px;
}

td.time {
  position: relative;
}

.time .bar {
  position: absolute;
  top: calc(50% - 6px);
  height: 12px;
  border-radius: 3px;
  background: var(--water);
}

.time .assumed {
  border: 1px dashed var(--water);
  background: none;
}

.broken {
  color: var(--needs);
  font-weight: 650;
}

.often {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(380px, 1fr));
  gap: 4px 24px;
  margin: 0;
  padding: 0;
  list-style: none;
}

.often li {
  display: flex;
  gap: 6px;
  align-items: center;
}

.often .name {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.often .bar {
  height: 8px;
  border-radius: 3px;
  background: var(--needs);
}
</style>
