<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import type { Item, Risk } from '@/api/types'
import ItemPicker from '@/line/ItemPicker.vue'
import ThingHistory from '@/line/ThingHistory.vue'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import DateField from '@/ui/DateField.vue'
import { changed } from '@/ui/inTurn'
import RiskPlayed from './RiskPlayed.vue'
import { responses, riskStates, useRisks, type Lists, type RiskRow } from './risks'

/** One risk: what it is, what is done about it, and how it is played. */
const props = defineProps<{ row: RiskRow }>()
const store = useProgram()
const risks = useRisks()
const proposals = useProposals()
const risk = computed(() => props.row.risk)
const may = (field: keyof Risk) => risks.may(risk.value.key, field)
const set = (field: keyof Risk, value: unknown, label: string) =>
  risks.set(risk.value.key, field, value, label)
const text = (event: Event) => (event.target as HTMLInputElement).value.trim()
/** Sets a text; what must not be empty comes back. */
function say(field: 'title' | 'cause' | 'effect' | 'answer', label: string, event: Event): void {
  const said = text(event)
  if (said || field !== 'title') void set(field, said, label)
  else (event.target as HTMLInputElement).value = risk.value.title
}
const heading = useTemplateRef<HTMLInputElement>('heading')
defineExpose({ focus: () => heading.value?.focus() })

const setList = <F extends keyof Lists>(field: F, to: (now: Lists[F]) => Lists[F], label: string) =>
  risks.setList(risk.value.key, field, to, label)

const actions = computed(() => risk.value.actions ?? [])
type RiskAction = Lists['actions'][number]
const act = (seen: RiskAction, at: number, how: Partial<RiskAction>) =>
  setList('actions', (now) => changed(now, seen, at, (a) => ({ ...a, ...how })), 'Actions')
const dropAction = (seen: RiskAction, at: number) =>
  setList('actions', (now) => changed(now, seen, at), 'Actions')
const newAction = ref('')
async function addAction(): Promise<void> {
  const text = newAction.value.trim()
  newAction.value = ''
  if (text && !(await setList('actions', (now) => [...now, { text }], 'Actions'))) newAction.value = text
}

// What it is about.
const items = computed(() => risk.value.items ?? [])
const link = (item: Item) => setList('items', (now) => [...now, item.key], 'Items')
const unlink = (key: string) => setList('items', (now) => now.filter((x) => x !== key), 'Items')
/** The needs of these items that may be named, and those that are. */
const needs = computed(() => risk.value.needs ?? [])
const named = (n: { item: string; needs: string }) =>
  needs.value.some((x) => x.item === n.item && x.needs === n.needs)
const possible = computed(() =>
  (store.program.needs ?? []).filter(
    (n) => !named(n) && (items.value.includes(n.item) || items.value.includes(n.needs)),
  ),
)
function need(event: Event): void {
  const n = possible.value[Number(text(event))]
  ;(event.target as HTMLSelectElement).value = ''
  if (n) void setList('needs', (now) => [...now, { item: n.item, needs: n.needs }], 'Needs')
}
const unneed = (n: Lists['needs'][number], at: number) =>
  setList('needs', (now) => changed(now, n, at), 'Needs')
/** Ticks a team or release of it, or takes the tick away. */
const tick = (field: 'teams' | 'releases', key: string) =>
  setList(
    field,
    (now) => (now.includes(key) ? now.filter((x) => x !== key) : [...now, key]),
    field === 'teams' ? 'Teams' : 'Releases',
  )
const people = computed(() => (store.program.people ?? []).filter((p) => !p.openSeat))
const remove = () => proposals.make({ do: 'remove', ref: { kind: 'risk', key: risk.value.key } })
const mayRemove = computed(() => store.may({ op: 'remove', kind: 'risk', key: risk.value.key }))
const history = ref(false)
</script>

<template>
  <aside :aria-label="`Risk ${risk.key}`">
    <div class="top">
      <b>{{ risk.key }}</b>
      <select
        class="in"
        :value="risk.state || 'open'"
        :disabled="!may('state')"
        aria-label="State"
        @change="set('state', text($event) === 'open' ? '' : text($event), 'State')"
      >
        <option v-for="[key, title] in riskStates" :key="key" :value="key">{{ title }}</option>
      </select>
      <button v-if="mayRemove" class="round" aria-label="Remove this risk" @click="remove">
        <i class="pi pi-trash" aria-hidden="true" />
      </button>
    </div>
    <textarea
      ref="heading"
      v-typing
      class="in title"
      rows="2"
      maxlength="300"
      :value="risk.title"
      :disabled="!may('title')"
      aria-label="What may happen"
      @change="say('title', 'Title', $event)"
      @keydown.enter.prevent="($event.target as HTMLElement).blur()"
    />
    <div class="two">
      <label
        >Chance
        <select
          class="in"
          :value="row.stands.chance"
          :disabled="!may('chance')"
          @change="set('chance', Number(text($event)) || undefined, 'Chance')"
        >
          <option :value="0">not rated</option>
          <option v-for="(s, i) in risks.scales.chance" :key="s" :value="i + 1">{{ s }}</option>
        </select>
      </label>
      <label
        >Impact
        <select
          class="in"
          :value="row.stands.impact"
          :disabled="!may('impact')"
          @change="set('impact', Number(text($event)) || undefined, 'Impact')"
        >
          <option :value="0">not rated</option>
          <option v-for="(s, i) in risks.scales.impact" :key="s" :value="i + 1">{{ s }}</option>
        </select>
      </label>
      <label
        >Watched by
        <select
          class="in"
          :value="risk.owner ?? ''"
          :disabled="!may('owner')"
          @change="set('owner', text($event), 'Owner')"
        >
          <option value="">nobody</option>
          <option v-for="p in people" :key="p.key" :value="p.key">{{ p.name }}</option>
        </select>
      </label>
      <div>
        <span class="label">Look again on</span>
        <DateField
          :model-value="risk.again"
          :disabled="!may('again')"
          aria-label="Look again on"
          @update:model-value="(d) => set('again', d, 'To be looked at again')"
        />
      </div>
    </div>
    <label
      >Cause
      <textarea
        v-typing
        class="in"
        rows="2"
        maxlength="2000"
        :value="risk.cause"
        :disabled="!may('cause')"
        @change="say('cause', 'Cause', $event)"
      />
    </label>
    <label
      >Effect
      <textarea
        v-typing
        class="in"
        rows="2"
        maxlength="2000"
        :value="risk.effect"
        :disabled="!may('effect')"
        @change="say('effect', 'Effect', $event)"
      />
    </label>
    <h3>Response</h3>
    <select
      class="in"
      :value="risk.response ?? ''"
      :disabled="!may('response')"
      aria-label="Response"
      @change="set('response', text($event), 'Response')"
    >
      <option v-for="[key, title] in responses" :key="key" :value="key">{{ title }}</option>
    </select>
    <textarea
      v-typing
      class="in"
      rows="2"
      maxlength="2000"
      placeholder="What is done about it"
      :value="risk.answer"
      :disabled="!may('answer')"
      aria-label="What is done about it"
      @change="say('answer', 'Response', $event)"
    />
    <ul v-if="actions.length" aria-label="Actions">
      <li v-for="(a, i) in actions" :key="i" class="action">
        <label class="check" :class="{ done: a.done }">
          <input
            type="checkbox"
            :checked="!!a.done"
            :disabled="!may('actions')"
            @change="act(a, i, { done: !a.done })"
          />
          <span>{{ a.text }}</span>
        </label>
        <button v-if="may('actions')" class="round" :aria-label="`Drop ${a.text}`" @click="dropAction(a, i)">
          <i class="pi pi-times" aria-hidden="true" />
        </button>
        <select
          class="in"
          :value="a.owner ?? ''"
          :disabled="!may('actions')"
          :aria-label="`Who sees to ${a.text}`"
          @change="act(a, i, { owner: text($event) || undefined })"
        >
          <option value="">nobody</option>
          <option v-for="p in people" :key="p.key" :value="p.key">{{ p.name }}</option>
        </select>
        <DateField
          :model-value="a.due"
          :disabled="!may('actions')"
          :aria-label="`${a.text}, due`"
          @update:model-value="(d) => act(a, i, { due: d || undefined })"
        />
      </li>
    </ul>
    <input
      v-if="may('actions')"
      v-model="newAction"
      class="in"
      aria-label="New action"
      placeholder="New action"
      maxlength="300"
      @keydown.enter.prevent="addAction"
    />
    <RiskPlayed :row="row" />
    <h3>About</h3>
    <fieldset>
      <legend class="quiet small">Teams</legend>
      <label v-for="t in store.program.teams" :key="t.key" class="check small">
        <input
          type="checkbox"
          :checked="risk.teams?.includes(t.key)"
          :disabled="!may('teams')"
          @change="tick('teams', t.key)"
        />
        {{ t.name }}
      </label>
    </fieldset>
    <fieldset>
      <legend class="quiet small">Releases that land with the work it brings</legend>
      <label v-for="r in store.program.releases" :key="r.key" class="check small">
        <input
          type="checkbox"
          :checked="risk.releases?.includes(r.key)"
          :disabled="!may('releases')"
          @change="tick('releases', r.key)"
        />
        {{ r.name }}
      </label>
    </fieldset>
    <ul v-if="items.length || needs.length" aria-label="Items and needs">
      <li v-for="key in items" :key="key" class="link">
        <RouterLink :to="{ name: 'backlog', params: { id: store.id }, query: { item: key } }"
          ><b>{{ key }}</b> {{ store.items.get(key)?.title }}</RouterLink
        >
        <button v-if="may('items')" class="round" :aria-label="`Not about ${key}`" @click="unlink(key)">
          <i class="pi pi-times" aria-hidden="true" />
        </button>
      </li>
      <li v-for="(n, i) in needs" :key="`${n.item} ${n.needs}`" class="link">
        <span>{{ n.item }} needs {{ n.needs }}</span>
        <button
          v-if="may('needs')"
          class="round"
          :aria-label="`Not about the need of ${n.item}`"
          @click="unneed(n, i)"
        >
          <i class="pi pi-times" aria-hidden="true" />
        </button>
      </li>
    </ul>
    <ItemPicker v-if="may('items')" label="It is about the item…" :except="items" @pick="link" />
    <select
      v-if="may('needs') && possible.length"
      class="in"
      value=""
      aria-label="It is about the need"
      @change="need"
    >
      <option value="">It is about the need…</option>
      <option v-for="(n, i) in possible" :key="i" :value="i">{{ n.item }} needs {{ n.needs }}</option>
    </select>
    <details @toggle="history = ($event.target as HTMLDetailsElement).open">
      <summary>What changed</summary>
      <ThingHistory v-if="history" :risk="risk.key" />
    </details>
  </aside>
</template>

<style scoped>
aside {
  display: grid;
  gap: 8px;
  padding: 10px 12px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--panel);
}

aside :deep(.picker input) {
  height: 30px;
}

.top {
  display: flex;
  gap: 10px;
  align-items: center;
}

.top select {
  flex: 1;
}

textarea {
  width: 100%;
  height: auto;
  padding: 4px 8px;
  resize: vertical;
}

.title {
  font-weight: 600;
}

.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}

label,
.label {
  font-size: 12.5px;
}

label .in {
  display: block;
  width: 100%;
}

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

fieldset {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  margin: 0;
  padding: 0;
  border: 0;
}

.action {
  display: grid;
  grid-template-columns: 1fr 140px;
  gap: 4px 8px;
  align-items: center;
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}

.action .round {
  justify-self: end;
}

.done span {
  color: var(--quiet);
  text-decoration: line-through;
}

.link {
  display: flex;
  gap: 8px;
  justify-content: space-between;
}

a {
  color: inherit;
}

summary {
  cursor: pointer;
}
</style>
