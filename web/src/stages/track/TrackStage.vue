<script setup lang="ts">
import Popover from 'primevue/popover'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { count } from '@/ui/format'
import { keysRest } from '@/ui/keysRest'
import KeysDialog from '@/ui/KeysDialog.vue'
import { useProgram } from '@/line/program'
import AttentionView from './attention/AttentionView.vue'
import CloseDialog from './CloseDialog.vue'
import CourseRow from './CourseRow.vue'
import HealthView from './health/HealthView.vue'
import HoursView from './hours/HoursView.vue'
import IterationStrip from './IterationStrip.vue'
import RisksView from './risks/RisksView.vue'
import ReviewView from './ReviewView.vue'
import ScopeView from './ScopeView.vue'
import StackBoard from './StackBoard.vue'
import StartDialog from './StartDialog.vue'
import StepsDialog from './StepsDialog.vue'
import { titleOf } from '@/line/course'
import { dealTitles, type Deal } from './attention/attention'
import { useTrack, type Row, type RowsBy, type Section } from './track'
import MarkDefs from '@/views/MarkDefs.vue'
import RulesLegend from '@/views/RulesLegend.vue'
import { partNames } from '@/views/shownView'
import ViewTools from '@/views/ViewTools.vue'
import { useViews } from '@/views/views'
import { useEventListener } from '@vueuse/core'

const store = useProgram()
const track = useTrack()
const route = useRoute()
const router = useRouter()

// The address holds which teams are in view, so that a link opens the same.
watch(
  () => route.query.teams,
  (teams) => (track.teams = typeof teams === 'string' ? teams.split(',').filter(Boolean) : []),
  { immediate: true },
)
const shown = computed(() => new Set(track.sections.map((s) => s.team)))
function toggle(team: string): void {
  const all = track.all.map((u) => u.team)
  const now = all.filter((key) => (key === team ? !shown.value.has(key) : shown.value.has(key)))
  show(now)
}
function show(teams: string[]): void {
  const all = !teams.length || teams.length === track.all.length
  void router.replace({ query: { ...route.query, teams: all ? undefined : teams.join(',') } })
}
/** As courses, stacked by step, how a part of the work came about, a review, hours, risks, what needs somebody, or how it all stands. */
const stacked = computed(() => route.query.as === 'stacks')
const scoped = computed(() => route.query.as === 'scope')
const reviewed = computed(() => route.query.as === 'review')
const timed = computed(() => route.query.as === 'hours')
/** Whether something else than the iterations under way is in view. */
const risked = computed(() => route.query.as === 'risks')
const called = computed(() => route.query.as === 'attention')
const healthy = computed(() => route.query.as === 'health')
const aside = computed(
  () => scoped.value || reviewed.value || timed.value || risked.value || called.value || healthy.value,
)
const lay = (as?: 'stacks' | 'scope' | 'review' | 'hours' | 'risks' | 'attention' | 'health') =>
  void router.replace({ query: { ...route.query, as } })
/** What rows are put together by: as courses their team, where nothing is said, and as stacks nothing. */
const groupings: [RowsBy, string][] = [
  ['team', 'team'],
  ['person', 'person'],
  ['feature', 'feature'],
  ['rank', 'rank alone'],
]
watch(
  [() => route.query.by, stacked],
  ([by]) => (track.by = groupings.find(([key]) => key === by)?.[0] ?? (stacked.value ? 'rank' : 'team')),
  { immediate: true },
)
const group = (event: Event) =>
  void router.replace({ query: { ...route.query, by: (event.target as HTMLSelectElement).value } })
watch(
  () => route.query.burn,
  (by) => (track.burn = by === 'hours' ? 'hours' : 'size'),
  { immediate: true },
)
const burn = (event: Event) =>
  void router.replace({
    query: {
      ...route.query,
      burn: (event.target as HTMLSelectElement).value === 'hours' ? 'hours' : undefined,
    },
  })
const choice = useTemplateRef<InstanceType<typeof Popover>>('choice')
const look = useTemplateRef<InstanceType<typeof Popover>>('look')
const views = useViews()
watch(
  () => store.id,
  () => void views.bring(),
  { immediate: true },
)
const chosenText = computed(() =>
  track.teams.length
    ? track.sections.length === 1
      ? store.teams.get(track.sections[0].team)?.name
      : count(track.sections.length, 'team')
    : 'All teams',
)

const starting = ref<string>()
const closing = ref<string>()
const closed = computed<Section | undefined>(() => track.sections.find((s) => s.team === closing.value))
/** Whether the tasks of all items are unfolded. */
watch(
  [() => route.query.tasks, () => store.id],
  ([tasks]) => {
    track.allUnfolded = tasks === 'shown'
    if (track.allUnfolded) void store.bringDetails('')
  },
  { immediate: true },
)
const showTasks = () =>
  void router.replace({ query: { ...route.query, tasks: track.allUnfolded ? undefined : 'shown' } })
const stepping = ref(false)
const help = ref(false)

/** How many of some rows are still to do: sizes of several teams are never added up. */
const leftOf = (rows: Row[]): string =>
  `${rows.filter((r) => r.item.state !== 'done').length} of ${count(rows.length, 'item')} left to finish`
/** The rows as they are laid out. */
const laid = computed(() => track.groups.flatMap((g) => g.rows))
const held = computed(() =>
  laid.value.some((r) => r.item.key === track.cursor) ? track.cursor : (laid.value[0]?.item.key ?? ''),
)
function key(row: Row, event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey || event.target !== event.currentTarget) return
  // Up and down go through the list, or through the stack.
  const near = stacked.value ? laid.value.filter((r) => r.at === row.at) : laid.value
  const at = near.indexOf(row)
  const go = (to: number) => track.focus(near[Math.min(near.length - 1, Math.max(0, to))].item.key)
  const move = (to: number) => track.stayOn(row.item.key, track.move(row, to))
  const does: Record<string, () => unknown> = {
    ArrowUp: () => go(at - 1),
    ArrowDown: () => go(at + 1),
    Home: () => go(0),
    End: () => go(near.length - 1),
    ArrowLeft: () => move(row.at - 1),
    ArrowRight: () => move(row.at + 1),
    b: () => track.askBlocked(row),
    t: () => track.unfold(row.item.key),
    Enter: () => router.push({ name: 'backlog', params: { id: store.id }, query: { item: row.item.key } }),
  }
  const what = does[event.key.length === 1 ? event.key.toLowerCase() : event.key]
  if (!what) return
  event.preventDefault()
  void what()
}
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (keysRest(event) || event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === '?') help.value = true
})
const keys = computed<[string[], string][]>(() =>
  timed.value ? keysOfHours : called.value ? keysOfAttention : keysOfRows,
)
const keysOfAttention: [string[], string][] = [
  [['↑', '↓'], 'the one above, below'],
  [['Enter'], 'open what it is about'],
  [['Z'], 'put it off with a reason, or take it up again'],
  ...(Object.keys(dealTitles) as Deal[])
    .filter((d) => d !== 'off')
    .map((d): [string[], string] => [
      [dealTitles[d][0].toUpperCase()],
      dealTitles[d][1].replace('…', '').toLowerCase(),
    ]),
]
const keysOfHours: [string[], string][] = [
  [['↑', '↓', 'Enter'], 'the row above, below'],
  [['←', '→'], 'the day before, after; within a text that is being changed, through it'],
  [['Page Up', 'Page Down'], 'the week before, after'],
  [['Escape'], 'what was there before'],
]
const keysOfRows: [string[], string][] = [
  [['↑', '↓'], 'the item above, below'],
  [['→'], 'on to the next step'],
  [['←'], 'back to the step before'],
  [['B'], 'say why it is blocked, or that it no longer is'],
  [['T'], 'show its tasks, or fold them'],
  [['Enter'], 'open the item in the backlog'],
]
</script>

<template>
  <main class="track" aria-label="Track">
    <div class="tools" data-region>
      <button class="chip" :aria-pressed="!stacked && !aside" @click="lay()">Courses</button>
      <button class="chip" :aria-pressed="stacked" @click="lay('stacks')">Stacks</button>
      <button class="chip" :aria-pressed="scoped" @click="lay('scope')">Scope</button>
      <button class="chip" :aria-pressed="reviewed" @click="lay('review')">Review</button>
      <button class="chip" :aria-pressed="timed" @click="lay('hours')">Hours</button>
      <button class="chip" :aria-pressed="risked" @click="lay('risks')">Risks</button>
      <button class="chip" :aria-pressed="called" @click="lay('attention')">Attention</button>
      <button class="chip" :aria-pressed="healthy" @click="lay('health')">Health</button>
      <span class="gap" />
      <button
        v-if="!aside && store.may({ op: 'set', kind: 'program', field: 'steps' })"
        class="chip"
        @click="stepping = true"
      >
        Steps…
      </button>
      <button v-if="!aside || timed || called" class="chip" @click="help = true">Keys (?)</button>
    </div>
    <template v-if="!aside">
      <div class="tools what" data-region role="toolbar" aria-label="What is shown">
        <button
          class="chip"
          aria-haspopup="true"
          :aria-label="`Teams: ${chosenText}`"
          @click="choice?.toggle($event)"
        >
          {{ chosenText }} <i class="pi pi-chevron-down" aria-hidden="true" />
        </button>
        <Popover ref="choice">
          <div class="teams">
            <label v-for="u in track.all" :key="u.team" class="check">
              <input type="checkbox" :checked="shown.has(u.team)" @change="toggle(u.team)" />
              {{ store.teams.get(u.team)?.name }}
            </label>
            <button class="link" :disabled="!track.teams.length" @click="show([])">All teams</button>
          </div>
        </Popover>
        <label class="by"
          ><span class="quiet">rows by</span>
          <select class="chip" :value="track.by" @change="group">
            <option v-for="[value, title] in groupings" :key="value" :value="value">{{ title }}</option>
          </select>
        </label>
        <button v-if="!stacked" class="chip" :aria-pressed="track.allUnfolded" @click="showTasks">
          Tasks
        </button>
        <label v-if="!stacked && track.by === 'team'" class="by"
          ><span class="quiet">burndown by</span>
          <select class="chip" :value="track.burn" @change="burn">
            <option value="size">size</option>
            <option value="hours">hours left</option>
          </select>
        </label>
        <ViewTools
          v-model:view="track.view"
          v-model:colour-by="track.colourBy"
          :painted="track.painted"
          :looks="['colourBy', 'blocks']"
          keeps="Its conditions, colour rules and what cards show are kept."
          about="What is shown"
          @show="track.showView($event)"
        />
        <template v-if="stacked">
          <button class="chip" aria-haspopup="dialog" @click="look?.toggle($event)">Cards…</button>
          <Popover ref="look" aria-label="What cards show">
            <div class="teams">
              <label v-for="(name, part) in partNames" :key="part" class="check">
                <input v-model="track.parts" type="checkbox" :value="part" /> {{ name }}
              </label>
            </div>
          </Popover>
        </template>
        <span v-if="track.leftOut" class="quiet small">{{ track.leftOut }} not in this view</span>
      </div>
      <RulesLegend :painted="track.painted" />
    </template>
    <MarkDefs />
    <p v-if="track.failure" role="alert" class="failure">{{ track.failure }}</p>
    <div v-if="scoped" class="scroll" data-region><ScopeView /></div>
    <div v-else-if="reviewed" class="scroll" data-region><ReviewView /></div>
    <div v-else-if="risked" class="scroll"><RisksView /></div>
    <div v-else-if="called" class="scroll"><AttentionView /></div>
    <div v-else-if="healthy" class="scroll" data-region><HealthView /></div>
    <div v-else-if="timed" class="scroll" data-region><HoursView /></div>
    <div v-else class="scroll" data-region="li[tabindex='0']">
      <div v-if="!stacked" class="head quiet small" aria-hidden="true">
        <span>What, most important first</span>
        <span class="steps"
          ><span v-for="(s, i) in track.course" :key="i"
            >{{ titleOf(s) }}<template v-if="s.most"> · {{ s.most }} at most</template></span
          ></span
        >
        <span>Who, waiting</span>
      </div>
      <p v-if="!track.sections.length && !track.asking && !track.failure" class="empty">
        No team is in an iteration today. Teams get iterations in
        <RouterLink :to="{ name: 'set-up-calendar', params: { id: store.id } }">Set up, Calendar</RouterLink>.
      </p>
      <p v-else-if="!track.sections.length && track.asking" class="empty" role="status">
        Reading the journal…
      </p>
      <p v-if="track.rows.length && track.leftOut === track.rows.length" class="empty">
        Nothing under way is in this view.
      </p>
      <StackBoard v-if="stacked && track.rows.length" :held="held" @key="key" />
      <template v-else-if="track.by !== 'team'">
        <section v-for="g in track.groups" :key="g.key" :aria-label="g.title || 'All items'">
          <h2 v-if="g.title" class="group">
            {{ g.title }} <span class="quiet small">{{ leftOf(g.rows) }}</span>
          </h2>
          <ul v-if="g.rows.length" class="rows" :aria-label="g.title ? `Items of ${g.title}` : 'Items'">
            <CourseRow
              v-for="row in g.rows"
              :key="row.item.key"
              :row="row"
              :held="row.item.key === held"
              @key="key(row, $event)"
            />
          </ul>
        </section>
      </template>
      <div v-else>
        <section v-for="s in track.sections" :key="s.team" :aria-label="store.teams.get(s.team)?.name">
          <IterationStrip :section="s" @start="starting = s.team" @close="closing = s.team" />
          <ul v-if="s.shown.length" class="rows" :aria-label="`Items of ${store.teams.get(s.team)?.name}`">
            <CourseRow
              v-for="row in s.shown"
              :key="row.item.key"
              :row="row"
              :held="row.item.key === held"
              @key="key(row, $event)"
            />
          </ul>
          <p v-else class="empty quiet">
            {{ s.rows.length ? 'Nothing of it is in this view.' : 'Nothing is placed in it.' }}
          </p>
        </section>
      </div>
    </div>
    <StartDialog v-if="starting" :team="starting" @close="starting = undefined" />
    <CloseDialog v-if="closed" :section="closed" @close="closing = undefined" />
    <StepsDialog v-if="stepping" @close="stepping = false" />
    <KeysDialog v-model:visible="help" :keys="keys" />
  </main>
</template>

<style scoped>
/* What stands in three columns: words, the course, who. */
.track {
  --courses: 330px minmax(260px, 1fr) 230px;

  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}

.tools {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 6px 16px;
  border-bottom: 1px solid var(--rule);
}

.tools.what {
  flex-wrap: wrap;
}

.gap {
  flex: 1;
}

.teams {
  display: grid;
  gap: 2px;
  max-height: 50vh;
  overflow-y: auto;
}

.scroll {
  flex: 1;
  overflow: auto;
}

.head {
  position: sticky;
  z-index: 2;
  top: 0;
  display: grid;
  grid-template-columns: var(--courses);
  gap: 0 20px;
  padding: 5px 16px;
  background: var(--paper);
}

.steps {
  display: grid;
  grid-auto-columns: minmax(0, 1fr);
  grid-auto-flow: column;
}

.steps > span {
  padding-left: 8px;
}

.by {
  display: flex;
  gap: 8px;
  align-items: center;
}

.group {
  margin: 0;
  padding: 6px 16px;
  background: var(--tint);
  font-size: 15px;
}

.rows {
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--rule);
  list-style: none;
}

.empty {
  margin: 0;
  padding: 14px 16px;
}
</style>
