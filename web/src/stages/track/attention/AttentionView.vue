<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { AttentionEntry } from '@/api/types'
import { useProgram } from '@/line/program'
import { shortDate } from '@/ui/dates'
import { amount } from '@/ui/format'
import AttentionRules from './AttentionRules.vue'
import DealForm from './DealForm.vue'
import { callTitles, useCalls } from '@/line/calls'
import { dealTitles, useAttention, type Deal } from './attention'

/** What needs somebody now: dealt with one after another. */
const store = useProgram()
const attention = useAttention()
const route = useRoute()
const router = useRouter()
// The address holds what is in view, so that a link opens the same.
watch(
  () => [route.query.call, route.query.team, route.query.release],
  ([call, team, release]) => {
    attention.kind = typeof call === 'string' && call in callTitles ? (call as AttentionEntry['kind']) : ''
    attention.team = typeof team === 'string' ? team : ''
    attention.release = typeof release === 'string' ? release : ''
  },
  { immediate: true },
)
const say = (query: Record<string, string | undefined>) =>
  void router.replace({ query: { ...route.query, ...query } })

const held = computed(() =>
  attention.entries.some((e) => e.id === attention.cursor)
    ? attention.cursor
    : (attention.entries[0]?.id ?? ''),
)
const { name, open } = useCalls()
const calling = computed(() => attention.entries.filter((e) => !e.off).length)
const release = (key?: string) => store.program.releases?.find((r) => r.key === key)?.name
function costs(e: AttentionEntry): string {
  if (e.cost < 0.05) return ''
  const days = `${amount(e.cost)} ${amount(e.cost) === '1' ? 'day' : 'days'}`
  return e.promise ? `missed by ${days} on average` : `costs ${release(e.release)} ${days}`
}
const notes = (e: AttentionEntry) =>
  [
    callTitles[e.kind],
    e.item ? store.teams.get(e.team ?? '')?.name : '',
    e.another && e.another !== e.team ? `waits for ${store.teams.get(e.another)?.name}` : '',
    e.by ? `by ${shortDate(e.by, store.todayDay)}` : '',
    costs(e),
  ].filter(Boolean)
function key(e: AttentionEntry, event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey || event.target !== event.currentTarget) return
  const list = attention.entries
  const at = list.findIndex((x) => x.id === e.id)
  const go = (to: number) => attention.focus(list[Math.min(list.length - 1, Math.max(0, to))].id)
  const pressed = event.key.toLowerCase()
  const what = attention.dealsOf(e).find((d) => dealTitles[d][0] === pressed)
  const does: Record<string, () => unknown> = {
    arrowup: () => go(at - 1),
    arrowdown: () => go(at + 1),
    home: () => go(0),
    end: () => go(list.length - 1),
    enter: () => router.push(open(e)),
  }
  const doing = what ? () => attention.deal(e, what) : does[pressed]
  if (!doing) return
  event.preventDefault()
  event.stopPropagation()
  void doing()
}
const leave = (e: AttentionEntry) => {
  attention.editing = undefined
  void attention.focus(e.id)
}
const title = (e: AttentionEntry, d: Deal) => (d === 'off' && e.off ? 'Take it up again' : dealTitles[d][1])
const ruling = ref(false)
</script>

<template>
  <div class="view">
    <header>
      <button class="chip" :aria-pressed="!attention.kind" @click="say({ call: undefined })">All</button>
      <template v-for="(text, kind) in callTitles" :key="kind">
        <button
          v-if="attention.counts.get(kind) || attention.kind === kind"
          class="chip"
          :aria-pressed="attention.kind === kind"
          @click="say({ call: attention.kind === kind ? undefined : kind })"
        >
          {{ text }} <span class="small">{{ attention.counts.get(kind) ?? 0 }}</span>
        </button>
      </template>
      <span class="gap" />
      <select
        class="chip"
        aria-label="Of which team"
        :value="attention.team"
        @change="say({ team: ($event.target as HTMLSelectElement).value || undefined })"
      >
        <option value="">All teams</option>
        <option v-for="t in store.program.teams" :key="t.key" :value="t.key">{{ t.name }}</option>
      </select>
      <select
        class="chip"
        aria-label="What costs which release"
        :value="attention.release"
        @change="say({ release: ($event.target as HTMLSelectElement).value || undefined })"
      >
        <option value="">All releases</option>
        <option v-for="r in store.program.releases" :key="r.key" :value="r.key">{{ r.name }}</option>
      </select>
      <button
        v-if="store.may({ op: 'set', kind: 'program', field: 'attention' })"
        class="chip"
        @click="ruling = true"
      >
        Rules…
      </button>
    </header>
    <p v-if="attention.failure" role="alert" class="failure">{{ attention.failure }}</p>
    <p v-else-if="!attention.known" role="status" class="quiet">Looking…</p>
    <p v-else-if="!attention.entries.length" class="quiet">Nothing needs anybody right now.</p>
    <p v-else class="quiet small">
      {{ calling }} {{ calling === 1 ? 'thing needs' : 'things need' }} somebody, what costs the releases the
      most days first.
    </p>
    <ul
      v-if="attention.entries.length"
      aria-label="What needs somebody"
      data-region="[data-call][tabindex='0']"
    >
      <li
        v-for="e in attention.entries"
        :key="e.id"
        :data-call="e.id"
        :class="{ off: e.off }"
        :tabindex="held === e.id ? 0 : -1"
        :aria-label="[e.item ?? e.risk, name(e), e.text, ...notes(e)].filter(Boolean).join(', ')"
        @keydown="key(e, $event)"
        @focus="attention.cursor = e.id"
      >
        <div>
          <p>
            <RouterLink :to="open(e)" tabindex="-1"
              ><b>{{ e.item ?? e.risk }}</b> {{ name(e) }}</RouterLink
            >
            <span class="text">{{ e.text }}</span>
          </p>
          <p class="quiet small">{{ notes(e).join(' · ') }}</p>
          <p v-if="e.off" class="small">
            Put off until {{ shortDate(e.off.until, store.todayDay) }}{{ e.off.why ? `: ${e.off.why}` : '' }}
          </p>
        </div>
        <DealForm
          v-if="attention.editing && attention.cursor === e.id"
          :entry="e"
          :what="attention.editing"
          @leave="leave(e)"
        />
        <div v-else class="does">
          <button
            v-for="d in attention.dealsOf(e)"
            :key="d"
            class="plain-button"
            tabindex="-1"
            :title="`${dealTitles[d][0].toUpperCase()}`"
            @click="attention.deal(e, d)"
          >
            {{ title(e, d) }}
          </button>
        </div>
      </li>
    </ul>
    <AttentionRules v-if="ruling" @close="ruling = false" />
  </div>
</template>

<style scoped>
.view {
  padding: 10px 16px 24px;
}

header {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin-bottom: 8px;
}

.gap {
  flex: 1;
}

p {
  margin: 0;
  overflow-wrap: anywhere;
}

ul {
  margin: 6px 0 0;
  padding: 0;
  border-top: 1px solid var(--rule);
  list-style: none;
}

li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 4px 16px;
  align-items: center;
  padding: 6px 12px;
  border-bottom: 1px solid var(--rule);
}

li:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: -2px;
}

.text::before {
  margin: 0 4px;
  content: '·';
}

.off {
  color: var(--quiet);
}

a {
  color: inherit;
  text-decoration: none;
}

a:hover {
  text-decoration: underline;
}

.does {
  display: flex;
  gap: 6px;
}
</style>
