<script setup lang="ts">
import { useDebounceFn, useEventListener, useIntervalFn } from '@vueuse/core'
import { computed, onScopeDispose, ref, watch as when } from 'vue'
import { useRouter } from 'vue-router'
import { shortDate, toDay } from '@/ui/dates'
import { amount, count } from '@/ui/format'
import KeysDialog from '@/ui/KeysDialog.vue'
import { keysRest } from '@/ui/keysRest'
import { useKeepFocus } from '@/ui/useKeepFocus'
import { listenTo } from '@/line/listening'
import { useNews } from '@/line/news'
import { useSession } from '@/line/session'
import NewsList from './NewsList.vue'
import WatchItem from './WatchItem.vue'
import { useWatch, type Row } from './watch'

/** The page of one's own: what concerns who is signed in, across programs. */
const watch = useWatch()
const news = useNews()
const session = useSession()
const router = useRouter()
const look = () => Promise.all([watch.load(), news.load()])
void look()

// What others do shows by itself. A browser keeps few lines to a server open at once, and other
// pages need some too: of more programs than these one hears within half a minute.
const LINES = 2
const again = useDebounceFn(look, 100)
useIntervalFn(() => {
  if (watch.programs.length > LINES) void again()
}, 30_000)
useEventListener(window, 'focus', () => void again())
let ends: (() => void)[] = []
when(
  () => watch.programs.map((p) => p.id).join(),
  () => {
    ends.forEach((end) => end())
    ends = watch.programs
      .slice(0, LINES)
      .map(({ id }) => listenTo(`/api/v1/programs/${id}/events`, { update: () => void again() }))
  },
  { immediate: true },
)
onScopeDispose(() => ends.forEach((end) => end()))

// A row that goes to another list keeps the keyboard, whoever took it there.
useKeepFocus(() => watch.found)

const several = computed(() => watch.programs.length > 1)
const lists = computed(() => [
  { key: 'going' as const, title: 'Under way', rows: watch.going, none: 'Nothing of yours is under way.' },
  {
    key: 'next' as const,
    title: 'Next',
    rows: watch.next,
    none: 'Nothing is assigned to you in this iteration or the next.',
  },
  {
    key: 'review' as const,
    title: 'Waits for your word',
    rows: watch.review,
    none: 'Nothing of your teams is in review by others.',
  },
])
const owed = computed(() =>
  watch.programs.flatMap((program) => program.mine.owed.map((o) => ({ ...o, program }))),
)
const off = computed(() =>
  watch.programs.flatMap((program) => program.mine.off.map((o) => ({ ...o, program }))),
)
const hours = computed(() => watch.programs.reduce((sum, p) => sum + p.mine.hours, 0))
const spent = computed(() => watch.programs.reduce((sum, p) => sum + p.mine.spent, 0))
const held = computed(() =>
  watch.rows.some((r) => r.id === watch.cursor) ? watch.cursor : watch.rows[0]?.id,
)

const help = ref(false)
const keys: [string[], string][] = [
  [['↑', '↓'], 'the item above, below'],
  [['→', '←'], 'on to the next step, back to the one before'],
  [['1', '…', '9'], 'tick a task of the item'],
  [['B'], 'say why it is blocked, or that it no longer is'],
  [['C'], 'say something about it'],
  [['H'], 'enter hours of today on it'],
  [['Enter'], 'open the item in the backlog'],
  [['N'], 'say that the news are seen'],
]
function key(row: Row, event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey || event.target !== event.currentTarget) return
  const at = watch.rows.findIndex((r) => r.id === row.id)
  const go = (to: number) => watch.focus(watch.rows[Math.min(watch.rows.length - 1, Math.max(0, to))].id)
  const stay = (did: Promise<void>) => watch.stayOn(row.id, did)
  const task = row.item.tasks[Number(event.key) - 1]
  const does: Record<string, () => unknown> = {
    ArrowUp: () => go(at - 1),
    ArrowDown: () => go(at + 1),
    Home: () => go(0),
    End: () => go(watch.rows.length - 1),
    ArrowLeft: () => stay(watch.move(row, row.item.at - 1)),
    ArrowRight: () => stay(watch.move(row, row.item.at + 1)),
    b: () => watch.ask(row, 'blocked'),
    c: () => watch.ask(row, 'comment'),
    h: () => watch.ask(row, 'hours'),
    Enter: () =>
      router.push({ name: 'backlog', params: { id: row.program.id }, query: { item: row.item.item } }),
  }
  const what =
    task && watch.mayWork(row, task)
      ? () => stay(watch.work(row, task, { done: !task.done }))
      : does[event.key.length === 1 ? event.key.toLowerCase() : event.key]
  if (!what) return
  event.preventDefault()
  void what()
}
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (keysRest(event) || event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === '?') help.value = true
  if (event.key.toLowerCase() === 'n' && news.count) void news.see()
})
</script>

<template>
  <main class="watch" aria-label="My watch">
    <header>
      <h1>My watch</h1>
      <p class="quiet">
        {{ session.me?.name }}
        <template v-if="hours"> · {{ amount(hours) }} h left of your tasks under way</template>
        <template v-if="spent"> · {{ amount(spent) }} h entered this week</template>
      </p>
      <span class="gap" />
      <button class="chip" @click="help = true">Keys (?)</button>
    </header>
    <p v-if="watch.failure" role="alert" class="failure">{{ watch.failure }}</p>
    <p v-if="!watch.found && !watch.failure" role="status" class="quiet">Looking…</p>
    <p v-else-if="watch.found && !watch.programs.length" class="quiet">
      No program knows yet which of its people you are. Its administrator says so in Set up, Access.
      <RouterLink to="/">All programs</RouterLink>
    </p>
    <div v-else-if="watch.found" class="columns">
      <div class="main" data-region="li[tabindex='0']">
        <NewsList />
        <section v-for="l in lists" :key="l.key" :aria-label="l.title">
          <h2>
            {{ l.title }} <span class="quiet small">{{ l.rows.length || '' }}</span>
          </h2>
          <ul v-if="l.rows.length">
            <WatchItem
              v-for="row in l.rows"
              :key="row.id"
              :row="row"
              :list="l.key"
              :held="row.id === held"
              @key="key(row, $event)"
            />
          </ul>
          <p v-else class="quiet">{{ l.none }}</p>
        </section>
      </div>
      <aside>
        <section aria-label="Others wait for">
          <h2>Others wait for</h2>
          <ul v-if="owed.length" class="plain">
            <li v-for="o in owed" :key="`${o.program.id}/${o.item}/${o.for}`">
              <p>
                <RouterLink :to="{ name: 'backlog', params: { id: o.program.id }, query: { item: o.item } }"
                  ><b>{{ o.item }}</b> {{ o.title }}</RouterLink
                >
              </p>
              <p class="small" :class="o.status === 'broken' ? 'late' : 'quiet'">
                {{ o.wanted ? `wanted by ${shortDate(o.wanted, toDay(o.program.today))}` : 'not dated yet'
                }}{{
                  o.status === 'broken' ? ', comes too late' : o.status === 'tight' ? ', no day to spare' : ''
                }}
              </p>
              <p class="small quiet">for {{ o.for }} {{ o.forTitle }}{{ o.team ? `, ${o.team}` : '' }}</p>
            </li>
          </ul>
          <p v-else class="quiet">Nobody else's work waits for yours.</p>
          <p v-for="program in watch.programs" :key="program.id" class="small">
            <RouterLink
              :to="{ name: 'plan', params: { id: program.id }, query: { as: 'needs', show: 'owed' } }"
              >All that is owed, and waited for<template v-if="watch.programs.length > 1">
                in {{ program.name }}</template
              ></RouterLink
            >
          </p>
        </section>
        <section aria-label="Days off">
          <h2>Days off</h2>
          <ul v-if="off.length" class="plain">
            <li v-for="o in off" :key="`${o.program.id}/${o.from}`">
              {{ shortDate(o.from, toDay(o.program.today)) }}
              <template v-if="o.to !== o.from"> – {{ shortDate(o.to, toDay(o.program.today)) }}</template>
              <span class="quiet"> {{ o.name }}</span>
            </li>
          </ul>
          <p v-else class="quiet">None ahead.</p>
          <p v-for="p in watch.programs" :key="p.id">
            <RouterLink :to="{ name: 'set-up-people', params: { id: p.id } }" class="small"
              >Say when you are away{{ several ? ` in ${p.name}` : '' }}</RouterLink
            >
          </p>
        </section>
        <section aria-label="Hours">
          <h2>Hours</h2>
          <p v-for="p in watch.programs" :key="p.id">
            <RouterLink
              :to="{ name: 'track', params: { id: p.id }, query: { as: 'hours', person: p.person } }"
              class="small"
              >Your week as a grid{{ several ? ` in ${p.name}` : '' }}</RouterLink
            >
            <span class="quiet small">, {{ amount(p.mine.spent) }} h entered this week</span>
          </p>
        </section>
        <section aria-label="Programs">
          <h2>Programs</h2>
          <p v-for="p in watch.programs" :key="p.id">
            <RouterLink :to="{ name: 'track', params: { id: p.id } }">{{ p.name }}</RouterLink>
            <span class="quiet small">, {{ p.role }}</span>
          </p>
          <p v-if="watch.found.leftOut" class="quiet small">
            and {{ count(watch.found.leftOut, 'more', 'more') }}, which are not looked through.
          </p>
        </section>
      </aside>
    </div>
    <KeysDialog v-model:visible="help" :keys="keys" />
  </main>
</template>

<style scoped>
.watch {
  flex: 1;
  min-height: 0;
  padding: 12px 24px 32px;
  overflow: auto;
}

header {
  display: flex;
  gap: 14px;
  align-items: baseline;
  margin-bottom: 6px;
}

h1,
p {
  margin: 0;
}

h1 {
  font-size: 22px;
}

h2 {
  margin: 14px 0 6px;
  font-size: 16px;
}

.gap {
  flex: 1;
}

.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 320px;
  gap: 32px;
}

.main ul {
  display: grid;
  gap: 8px;
  margin: 0;
  padding: 0;
  list-style: none;
}

.plain {
  margin: 0;
  padding: 0;
  list-style: none;
}

aside li {
  padding: 4px 0;
  border-top: 1px solid var(--rule);
}

aside a {
  color: inherit;
}

.late {
  color: var(--over);
}
</style>
