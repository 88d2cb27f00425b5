<script setup lang="ts">
import Popover from 'primevue/popover'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Comparison, Landing } from '@/api/types'
import { ofLine } from '@/api/inView'
import { Names, fieldInWords, valueInWords } from '@/line/describeChange'
import { dateAt, landingRange } from '@/line/landingRange'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'
import { useAnswer } from '@/line/useAnswer'
import { monthTicks, shortDay, toDay } from '@/ui/dates'
import { count, percent } from '@/ui/format'
import { compareLines, nameOfLine, useGhostLine, type LineName } from './compare'
import ElsewhereList from './ElsewhereList.vue'
import LandingBars from './LandingBars.vue'

/** Two to four lines side by side: figures, landings on one axis, and what stands elsewhere. */
const store = useProgram()
const scenarios = useScenarios()
const route = useRoute()
const router = useRouter()
const ghost = useGhostLine()
void scenarios.load()

const here = computed(() => nameOfLine(store.line, store.revision))
/** Which lines, by the address; else the line in view against the live plan. */
const of = computed<LineName[]>(() => {
  const asked = String(route.query.of ?? '')
    .split(',')
    .filter(Boolean)
  if (asked.length) return asked.slice(0, 4)
  return here.value === 'live' ? ['live'] : ['live', here.value]
})
const go = (names: LineName[]) =>
  router.push({ query: { ...route.query, as: 'compare', of: names.join(',') } })

const { answer, failure, asking } = useAnswer(
  () => (of.value.length > 1 ? compareLines(store.id, of.value) : undefined),
  [of, () => store.revision, () => store.live],
  { forget: ([now], [before]) => now !== before },
)
const c = computed<Comparison | undefined>(() => answer.value)

/** What can be added: every line that is not among them. */
const others = computed(() =>
  [
    { of: 'live', name: 'Live plan' },
    ...scenarios.list.map((s) => ({ of: `scenario-${s.id}`, name: s.name })),
    ...scenarios.baselines.map((b) => ({ of: `baseline-${b.id}`, name: `Baseline: ${b.name}` })),
  ].filter((x) => !of.value.includes(x.of)),
)
const called = (name: LineName) =>
  c.value?.sides.find((s) => s.of === name)?.name ??
  [...scenarios.list.map((s) => ({ of: `scenario-${s.id}`, name: s.name }))].find((x) => x.of === name)
    ?.name ??
  scenarios.baselines.find((b) => `baseline-${b.id}` === name)?.name ??
  (name === 'live' ? 'Live plan' : name)
const colourOf = (name: LineName): string => {
  const [kind, id] = name.split('-')
  if (kind === 'scenario') return scenarios.colourOf(Number(id))
  return name === 'live' ? 'var(--water)' : 'var(--edge)'
}
const colours = computed(() => of.value.map(colourOf))
const add = ref('')
watch(add, (name) => {
  if (name) void go([...of.value, name])
  add.value = ''
})

const menu = ref<InstanceType<typeof Popover>>()
const file = (format: string) => {
  const query = new URLSearchParams({ format })
  of.value.forEach((name) => query.append('of', name))
  return ofLine(`/api/v1/programs/${store.id}/reports/compare?${query.toString()}`)
}

type Lands = NonNullable<Comparison['releases'][number]['of'][number]>
const landing = (l: Lands | null | undefined): Landing | undefined => l ?? undefined
/** The days that the bars span. */
const span = computed(() => {
  const days = (c.value?.releases ?? []).flatMap((r) =>
    r.of.flatMap((l) => [dateAt(landing(l), 50), dateAt(landing(l), 85), l?.due]),
  )
  const known = days.filter((d): d is string => !!d).map(toDay)
  if (!known.length) return { from: store.todayDay, to: store.todayDay + 30 }
  return { from: Math.min(...known) - 7, to: Math.max(...known) + 7 }
})
const months = computed(() =>
  monthTicks(span.value.from, span.value.to).filter((t) => t.day >= span.value.from),
)
const signed = (n: number, digits = 0) => `${n > 0 ? '+' : '−'}${Math.abs(n).toFixed(digits)}`
/** What differs from the first line in points of chance. */
function points(r: Comparison['releases'][number], i: number): number {
  const [a, b] = [r.of[0]?.chance, r.of[i]?.chance]
  return i && a !== undefined && b !== undefined ? Math.round(100 * b) - Math.round(100 * a) : 0
}
const late = (i: number) => (c.value && i ? c.value.late[i] - c.value.late[0] : 0)

const names = computed(() => new Names(store.program))

function showGhosts(name: LineName): void {
  ghost.of = name
  void router.push({ query: { ...route.query, as: undefined, of: undefined } })
}
</script>

<template>
  <main class="side-by-side" aria-label="Compare">
    <div class="toolbar" data-region role="toolbar" aria-label="What is compared">
      <RouterLink class="chip link-chip" :to="{ query: { ...route.query, as: undefined, of: undefined } }"
        ><i class="pi pi-arrow-left" aria-hidden="true" /> The plan</RouterLink
      >
      <span class="quiet">Compare</span>
      <span v-for="(name, i) in of" :key="name" class="side">
        <span class="dot" :style="{ background: colours[i] }" aria-hidden="true" />
        <span class="called">{{ called(name) }}</span>
        <button
          v-if="of.length > 1"
          class="x"
          :aria-label="`Without ${called(name)}`"
          title="Take it out"
          @click="go(of.filter((x) => x !== name))"
        >
          <i class="pi pi-times" aria-hidden="true" />
        </button>
      </span>
      <select v-if="of.length < 4 && others.length" v-model="add" class="in" aria-label="Compare with">
        <option value="">with…</option>
        <option v-for="o in others" :key="o.of" :value="o.of">{{ o.name }}</option>
      </select>
      <span class="gap" />
      <span v-if="asking && c" class="quiet small" role="status">Comparing…</span>
      <button v-if="c" class="chip" aria-haspopup="dialog" @click="menu?.toggle($event)">Export…</button>
      <Popover ref="menu" aria-label="Export the comparison">
        <ul class="files">
          <li v-for="f in ['xlsx', 'csv', 'md']" :key="f">
            <a :href="file(f)" download>{{ f === 'md' ? 'Markdown' : f.toUpperCase() }}</a>
          </li>
        </ul>
      </Popover>
    </div>
    <div class="beside" tabindex="0" aria-label="Side by side">
      <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
      <p v-else-if="of.length < 2" class="quiet">
        Choose what to hold {{ called(of[0]) }} against: a scenario or a baseline.
        <template v-if="!others.length">
          There is none yet: make one from the menu beside the program's name.</template
        >
      </p>
      <p v-else-if="!c" role="status">Comparing…</p>
      <template v-else>
        <table class="table figures">
          <thead>
            <tr>
              <th />
              <th v-for="(side, i) in c.sides" :key="side.of">
                <span class="dot" :style="{ background: colours[i] }" aria-hidden="true" /> {{ side.name }}
                <span class="under small">
                  <template v-if="side.at">as of {{ shortDay(toDay(side.day), store.todayDay) }} </template>
                  <button
                    v-if="side.of !== here"
                    class="link"
                    :aria-label="`${side.name}: its places on the plan, as ghosts`"
                    title="Its places on the plan, as ghosts"
                    @click="showGhosts(side.of)"
                  >
                    on the plan
                  </button>
                </span>
              </th>
              <th class="bars">
                <span>lands (50 to 85 %), due marked</span>
                <span class="months" aria-hidden="true">
                  <span
                    v-for="t in months"
                    :key="t.day"
                    :style="{ left: `${((t.day - span.from) / (span.to - span.from)) * 100}%` }"
                    >{{ t.label }}</span
                  >
                </span>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in c.releases" :key="r.key" class="release">
              <th scope="row">{{ r.name }} <span class="quiet small">on time</span></th>
              <td v-for="(l, i) in r.of" :key="i">
                <template v-if="l">
                  <b class="chance">{{ l.chance === undefined ? 'no due date' : percent(l.chance) }}</b>
                  <span v-if="points(r, i)" :class="['small', points(r, i) > 0 ? 'good' : 'worse']">{{
                    signed(points(r, i))
                  }}</span>
                  <span class="quiet small lands">{{
                    l.left ? landingRange(l, store.todayDay) : 'nothing left to do'
                  }}</span>
                </template>
                <span v-else class="quiet">not there</span>
              </td>
              <td class="bars">
                <LandingBars
                  :lands="r.of.map(landing)"
                  :colours="colours"
                  :from="span.from"
                  :to="span.to"
                  :near="store.todayDay"
                />
              </td>
            </tr>
            <tr>
              <th scope="row">Expected late days</th>
              <td v-for="(n, i) in c.late" :key="i">
                {{ n.toFixed(1) }}
                <span v-if="Math.abs(late(i)) >= 0.05" :class="['small', late(i) < 0 ? 'good' : 'worse']">{{
                  signed(late(i), 1)
                }}</span>
              </td>
              <td />
            </tr>
            <tr>
              <th scope="row">Over capacity · broken needs</th>
              <td v-for="(n, i) in c.counts" :key="i">{{ n.over }} · {{ n.broken }}</td>
              <td />
            </tr>
            <tr>
              <th scope="row">Unplaced · not ready</th>
              <td v-for="(n, i) in c.counts" :key="i">{{ n.unplaced }} · {{ n.notReady }}</td>
              <td />
            </tr>
            <tr v-for="r in c.releases" :key="`scope ${r.key}`">
              <th scope="row">Scope of {{ r.name }}</th>
              <td v-for="(l, i) in r.of" :key="i">
                <template v-if="l">
                  {{ count(l.items, 'item') }}
                  <span v-if="l.in.length" class="small"
                    >+{{ l.in.length }}: {{ l.in.slice(0, 4).join(', ')
                    }}{{ l.in.length > 4 ? ' …' : '' }}</span
                  >
                  <span v-if="l.out.length" class="small"
                    >−{{ l.out.length }}: {{ l.out.slice(0, 4).join(', ')
                    }}{{ l.out.length > 4 ? ' …' : '' }}</span
                  >
                </template>
              </td>
              <td />
            </tr>
            <tr v-for="v in c.values.slice(0, 60)" :key="`${v.kind} ${v.in} ${v.key} ${v.field}`">
              <th scope="row">
                {{ v.kind === 'program' ? '' : v.name }}
                <span class="quiet small">{{ fieldInWords(v) }}</span>
              </th>
              <td v-for="(x, i) in v.of" :key="i">{{ valueInWords(v, x, names) }}</td>
              <td />
            </tr>
          </tbody>
        </table>

        <table v-if="c.loads.length" class="table">
          <thead>
            <tr>
              <th>Load of capacity</th>
              <th v-for="side in c.sides" :key="side.of">{{ side.name }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in c.loads.slice(0, 60)" :key="`${l.team} ${l.key}`">
              <th scope="row">
                {{ l.name }} <span class="quiet small">{{ store.teams.get(l.team)?.name }}</span>
              </th>
              <td v-for="(x, i) in l.of" :key="i" :class="{ worse: x?.over }">
                {{
                  x
                    ? `${+x.load.toFixed(1)} of ${+x.capacity.toFixed(1)}${x.over ? ', over' : ''}`
                    : 'not there'
                }}
              </td>
            </tr>
          </tbody>
        </table>

        <table v-if="c.needs.length" class="table">
          <thead>
            <tr>
              <th>{{ count(c.needs.length, 'need') }} broken in some</th>
              <th v-for="side in c.sides" :key="side.of">{{ side.name }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="n in c.needs.slice(0, 60)" :key="`${n.item} ${n.needs}`">
              <th scope="row">{{ n.item }} needs {{ n.needs }}</th>
              <td v-for="(x, i) in n.of" :key="i" :class="{ worse: x === 'broken' }">
                {{ x || 'not there' }}
              </td>
            </tr>
          </tbody>
        </table>

        <ElsewhereList :comparison="c" />
      </template>
    </div>
  </main>
</template>

<style scoped src="./compare.css"></style>

<style scoped>
.side {
  display: flex;
  gap: 6px;
  align-items: center;
  max-width: 230px;
  padding: 3px 10px;
  border: 1px solid var(--edge);
  border-radius: 14px;
  background: var(--panel);
  white-space: nowrap;
}

.called {
  overflow: hidden;
  text-overflow: ellipsis;
}

.x {
  border: 0;
  background: none;
  color: var(--quiet);
  cursor: pointer;
}

.x .pi {
  font-size: 10px;
}

.dot {
  display: inline-block;
  flex: none;
  width: 10px;
  height: 10px;
  border-radius: 50%;
}

.release td,
.release th {
  padding-top: 8px;
  padding-bottom: 8px;
}

.chance {
  font-size: 16px;
}

.find .in {
  width: 190px;
}

.lands {
  display: block;
  white-space: nowrap;
  text-align: left;
}

.figures thead th {
  vertical-align: top;
  white-space: normal;
}

.under {
  display: flex;
  gap: 6px;
  font-weight: 400;
}

.bars {
  width: 300px;
  min-width: 300px;
}

.months {
  position: relative;
  display: block;
  height: 14px;
  font-weight: 400;
}

.months span {
  position: absolute;
  font-size: 11px;
}

span.good,
span.worse {
  margin-left: 4px;
}

.good {
  color: var(--good);
  font-weight: 600;
}

.worse {
  color: var(--over);
  font-weight: 600;
}

.files {
  display: grid;
  gap: 6px;
  margin: 0;
  padding: 0;
  list-style: none;
}

.files a {
  color: inherit;
}
</style>
