<script setup lang="ts">
import Popover from 'primevue/popover'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { count } from '@/ui/format'
import { keysRest } from '@/ui/keysRest'
import KeysDialog from '@/ui/KeysDialog.vue'
import { useProgram } from '@/line/program'
import CloseDialog from './CloseDialog.vue'
import CourseRow from './CourseRow.vue'
import IterationStrip from './IterationStrip.vue'
import StackBoard from './StackBoard.vue'
import StartDialog from './StartDialog.vue'
import { steps, useTrack, type Row, type Section } from './track'
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
/** As courses, or stacked by step. */
const stacked = computed(() => route.query.as === 'stacks')
const lay = (as?: 'stacks') => void router.replace({ query: { ...route.query, as } })
const choice = useTemplateRef<InstanceType<typeof Popover>>('choice')
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
const help = ref(false)

const held = computed(() =>
  track.rows.some((r) => r.item.key === track.cursor) ? track.cursor : (track.rows[0]?.item.key ?? ''),
)
function key(row: Row, event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey || event.target !== event.currentTarget) return
  // Up and down go through the list, or through the stack.
  const near = stacked.value ? track.ordered.filter((r) => r.at === row.at) : track.rows
  const at = near.indexOf(row)
  const go = (to: number) => track.focus(near[Math.min(near.length - 1, Math.max(0, to))].item.key)
  const move = async (to: number) => {
    await track.move(row, to)
    if (!track.asked) await track.focus(row.item.key)
  }
  const does: Record<string, () => unknown> = {
    ArrowUp: () => go(at - 1),
    ArrowDown: () => go(at + 1),
    Home: () => go(0),
    End: () => go(near.length - 1),
    ArrowLeft: () => move(row.at - 1),
    ArrowRight: () => move(row.at + 1),
    b: () => track.askBlocked(row),
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
const keys: [string[], string][] = [
  [['↑', '↓'], 'the item above, below'],
  [['→'], 'on to the next step'],
  [['←'], 'back to the step before'],
  [['B'], 'say why it is blocked, or that it no longer is'],
  [['Enter'], 'open the item in the backlog'],
]
</script>

<template>
  <main class="track" aria-label="Track">
    <div class="tools" data-region>
      <button class="chip" :aria-pressed="!stacked" @click="lay()">Courses</button>
      <button class="chip" :aria-pressed="stacked" @click="lay('stacks')">Stacks</button>
      <span class="quiet" aria-hidden="true">of</span>
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
      <span class="gap" />
      <button class="chip" @click="help = true">Keys (?)</button>
    </div>
    <p v-if="track.failure" role="alert" class="failure">{{ track.failure }}</p>
    <div class="scroll" data-region="li[tabindex='0']">
      <div v-if="!stacked" class="head quiet small" aria-hidden="true">
        <span>What, most important first</span>
        <span class="steps"
          ><span v-for="s in steps" :key="s.state">{{ s.title }}</span></span
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
      <StackBoard v-if="stacked && track.rows.length" :held="held" @key="key" />
      <div v-else>
        <section v-for="s in track.sections" :key="s.team" :aria-label="store.teams.get(s.team)?.name">
          <IterationStrip :section="s" @start="starting = s.team" @close="closing = s.team" />
          <ul v-if="s.rows.length" class="rows" :aria-label="`Items of ${store.teams.get(s.team)?.name}`">
            <CourseRow
              v-for="row in s.rows"
              :key="row.item.key"
              :row="row"
              :held="row.item.key === held"
              @key="key(row, $event)"
            />
          </ul>
          <p v-else class="empty quiet">Nothing is placed in it.</p>
        </section>
      </div>
    </div>
    <StartDialog v-if="starting" :team="starting" @close="starting = undefined" />
    <CloseDialog v-if="closed" :section="closed" @close="closing = undefined" />
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

.gap {
  flex: 1;
}

.chip {
  height: 28px;
  padding: 0 12px;
  border: 1px solid var(--edge);
  border-radius: 14px;
  background: var(--panel);
  color: var(--ink);
  font: inherit;
  font-size: 13px;
  cursor: pointer;
}

.chip[aria-pressed='true'] {
  background: var(--ink);
  color: var(--panel);
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
  grid-template-columns: repeat(4, 1fr);
}

.steps > span {
  padding-left: 8px;
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
