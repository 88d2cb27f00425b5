<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Item, Risk } from '@/api/types'
import ItemPicker from '@/line/ItemPicker.vue'
import { useProgram } from '@/line/program'
import DateField from '@/ui/DateField.vue'
import { changed } from '@/ui/inTurn'
import { inPercent } from '@/ui/format'
import { useRisks, type Lists, type RiskRow } from './risks'

/** How a risk is played: at which odds it brings which work and which delays, and with its response. */
const props = defineProps<{ row: RiskRow }>()
const store = useProgram()
const risks = useRisks()
const risk = computed(() => props.row.risk)
const may = computed(() => risks.may(risk.value.key, 'odds'))
const set = (field: keyof Risk, value: unknown, label: string) =>
  risks.set(risk.value.key, field, value, label)
const text = (event: Event) => (event.target as HTMLInputElement).value.trim()
/** A percentage as a share; undefined for none. What is out of range comes back. */
function share(field: 'odds' | 'oddsThen' | 'shareThen', label: string, event: Event): void {
  const typed = text(event)
  const n = Number(typed)
  const least = field === 'odds' ? 0.01 : 0
  if (typed && !(n >= least && n <= 100)) (event.target as HTMLInputElement).value = shown(field)
  else void set(field, typed ? n / 100 : null, label)
}
const shown = (field: 'odds' | 'oddsThen' | 'shareThen') => {
  const n = risk.value[field]
  return n === undefined ? '' : String(inPercent(n))
}

type Adds = Lists['adds'][number]
type Delay = Lists['delays'][number]
const adds = computed(() => risk.value.adds ?? [])
const delays = computed(() => risk.value.delays ?? [])
const unit = (a: Adds) =>
  store.teams.get(a.team ?? store.items.get(a.item ?? '')?.team ?? '')?.unit ?? 'units'
const whom = (a: { team?: string; item?: string }) =>
  a.team
    ? (store.teams.get(a.team)?.name ?? a.team)
    : `${a.item} ${store.items.get(a.item ?? '')?.title ?? ''}`
/** What makes a range one as it was typed: the upper end goes where it is not more than the lower. */
function range<T extends { upTo?: number }>(low: keyof T & string, end: 'low' | 'high', event: Event) {
  const typed = text(event)
  const n = Number(typed)
  return (part: T): T => {
    if (!(n >= 0)) return part
    if (end === 'low')
      return { ...part, [low]: n, upTo: part.upTo !== undefined && part.upTo > n ? part.upTo : undefined }
    return { ...part, upTo: typed && n > Number(part[low]) ? n : undefined }
  }
}
const setAdds = (seen: Adds, at: number, to?: (a: Adds) => Adds) =>
  risks.setList(risk.value.key, 'adds', (now) => changed(now, seen, at, to), 'Work')
const setDelays = (seen: Delay, at: number, to?: (d: Delay) => Delay) =>
  risks.setList(risk.value.key, 'delays', (now) => changed(now, seen, at, to), 'Delays')

const brings = ref<'adds' | 'delays'>('adds')
const add = (a: Adds) => risks.setList(risk.value.key, 'adds', (now) => [...now, a], 'Work')
function addTeam(event: Event): void {
  const team = text(event)
  ;(event.target as HTMLSelectElement).value = ''
  if (team) void add({ team, size: 1 })
}
function addItem(item: Item): void {
  if (brings.value === 'adds') void add({ item: item.key, size: 1 })
  else void risks.setList(risk.value.key, 'delays', (now) => [...now, { item: item.key, days: 5 }], 'Delays')
}
const then = computed(() => risks.gains(props.row.worth, true))
</script>

<template>
  <h3>In the forecast</h3>
  <p class="line">
    At odds of
    <input
      v-typing
      class="in number"
      inputmode="decimal"
      :value="shown('odds')"
      :disabled="!may"
      aria-label="Odds in percent"
      placeholder="–"
      @change="share('odds', 'Odds', $event)"
    />
    % it brings
  </p>
  <ul v-if="adds.length + delays.length" aria-label="What it brings">
    <li v-for="(a, i) in adds" :key="`a${i}`">
      <input
        v-typing
        class="in number"
        inputmode="decimal"
        :value="a.size"
        :disabled="!may"
        :aria-label="`Work for ${whom(a)}, at least`"
        @change="setAdds(a, i, range('size', 'low', $event))"
      />
      to
      <input
        v-typing
        class="in number"
        inputmode="decimal"
        :value="a.upTo ?? ''"
        :disabled="!may"
        :placeholder="String(a.size)"
        :aria-label="`Work for ${whom(a)}, at most`"
        @change="setAdds(a, i, range('size', 'high', $event))"
      />
      <span class="what">{{ unit(a) }} more for {{ whom(a) }}</span>
      <button v-if="may" class="round" :aria-label="`No work for ${whom(a)}`" @click="setAdds(a, i)">
        <i class="pi pi-times" aria-hidden="true" />
      </button>
    </li>
    <li v-for="(d, i) in delays" :key="`d${i}`">
      <input
        v-typing
        class="in number"
        inputmode="numeric"
        :value="d.days"
        :disabled="!may"
        :aria-label="`Days of delay of ${d.item}, at least`"
        @change="setDelays(d, i, range('days', 'low', $event))"
      />
      to
      <input
        v-typing
        class="in number"
        inputmode="numeric"
        :value="d.upTo ?? ''"
        :disabled="!may"
        :placeholder="String(d.days)"
        :aria-label="`Days of delay of ${d.item}, at most`"
        @change="setDelays(d, i, range('days', 'high', $event))"
      />
      <span class="what">days’ delay of {{ whom(d) }}</span>
      <button v-if="may" class="round" :aria-label="`No delay of ${d.item}`" @click="setDelays(d, i)">
        <i class="pi pi-times" aria-hidden="true" />
      </button>
    </li>
  </ul>
  <div v-if="may" class="more">
    <select class="in" value="" aria-label="More work for a team" @change="addTeam">
      <option value="">More work for the team…</option>
      <option v-for="t in store.program.teams" :key="t.key" :value="t.key">{{ t.name }}</option>
    </select>
    <div class="line">
      <select v-model="brings" class="in" aria-label="What it brings an item">
        <option value="adds">more work on</option>
        <option value="delays">a delay of</option>
      </select>
      <ItemPicker label="the item…" @pick="addItem" />
    </div>
  </div>
  <div v-if="adds.some((a) => a.team)" class="line">
    Work does not begin before
    <DateField
      :model-value="risk.from"
      :disabled="!may"
      aria-label="Work does not begin before"
      @update:model-value="(d) => set('from', d, 'From')"
    />
  </div>
  <template v-if="risk.odds !== undefined && adds.length + delays.length">
    <p class="line">
      With the response, odds of
      <input
        v-typing
        class="in number"
        inputmode="decimal"
        :value="shown('oddsThen')"
        :disabled="!may"
        :placeholder="shown('odds')"
        aria-label="Odds with the response, in percent"
        @change="share('oddsThen', 'Odds with the response', $event)"
      />
      % and
      <input
        v-typing
        class="in number"
        inputmode="decimal"
        :value="shown('shareThen')"
        :disabled="!may"
        placeholder="100"
        aria-label="What is left of it with the response, in percent"
        @change="share('shareThen', 'Left with the response', $event)"
      />
      % of it
    </p>
    <label class="check">
      <input
        type="checkbox"
        :checked="!!risk.answered"
        :disabled="!may"
        @change="set('answered', risk.answered ? null : true, 'Response in place')"
      />
      the response is in place
    </label>
    <p v-if="row.worth && !row.stands.over" class="worth" :class="{ stale: risks.asking }">
      It costs {{ risks.gains(row.worth).join(' · ') || 'nothing to speak of' }}.
      <template v-if="then.length">The response is worth {{ then.join(' · ') }}.</template>
    </p>
  </template>
  <p v-else class="quiet small">With odds, and work or a delay, every forecast plays it.</p>
</template>

<style scoped>
p,
h3,
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

h3 {
  margin-top: 4px;
  font-size: 14px;
}

.line,
li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  align-items: center;
}

.line > :deep(.picker) {
  flex: 1;
}

li {
  flex-wrap: nowrap;
  padding: 2px 0;
}

.number {
  width: 52px;
  flex: none;
}

.what {
  flex: 1;
  overflow-wrap: anywhere;
}

.more {
  display: grid;
  gap: 4px;
}

.stale {
  color: var(--quiet);
}

.worth {
  padding: 6px 8px;
  border-radius: 4px;
  background: var(--tint);
}
</style>
