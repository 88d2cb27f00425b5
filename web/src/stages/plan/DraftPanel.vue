<script setup lang="ts">
import { useEventListener, useVirtualList } from '@vueuse/core'
import Button from 'primevue/button'
import InputNumber from 'primevue/inputnumber'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import type { Drafted } from '@/api/types'
import { shortDate, toDay } from '@/ui/dates'
import { amount, count, days, percent } from '@/ui/format'
import { useDraft, type Proposal } from './draft'
import { useLevers } from './levers'
import { usePlan } from './plan'
import { dateAt } from '@/line/landingRange'
import { keysRest } from '@/ui/keysRest'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'

const store = useProgram()
const scenarios = useScenarios()
const plan = usePlan()
const draft = useDraft()
const levers = useLevers()

const { list, containerProps, wrapperProps } = useVirtualList(
  computed(() => draft.proposals),
  { itemHeight: 26, overscan: 8 },
)

const place = (p: Proposal, key: string) => (key ? store.iterationName(p.team, key) : 'unplaced')
/** Where all of it is to stand; of what is rough, how much in which iterations. */
const goal = (p: Proposal) =>
  p.places?.map((x) => `${amount(x.size)} in ${place(p, x.iteration)}`).join(', ') || place(p, p.to)

/** What the ticked moves would do to each release. */
const effects = computed(() =>
  (draft.after?.landings ?? []).flatMap((after, i) => {
    const before = draft.drafted?.before.landings[i]
    const [was, now] = [dateAt(before, 50), dateAt(after, 50)]
    if (!now) return []
    const name = store.releases.get(after.key)?.name ?? after.key
    const moved = was ? days(toDay(now) - toDay(was)) : ''
    const chance =
      after.chance !== undefined && before?.chance !== undefined
        ? `${percent(before.chance)} → ${percent(after.chance)} on time`
        : ''
    return [
      {
        key: after.key,
        name,
        text: [`even odds by ${shortDate(now, store.todayDay)}`, moved, chance].filter(Boolean).join(' · '),
      },
    ]
  }),
)

/** A need that is done after the day that its teams agreed on. */
const breaks = (o: Drafted['before']['missed'][number]) =>
  `${o.needs}, ${teamName(o.gives)} for ${teamName(o.waits)} by ${shortDate(o.given, store.todayDay)}`
const teamName = (key: string) => store.teams.get(key)?.name ?? 'nobody'
/** The same to the plan as a whole. */
const counts = computed(() => {
  const [now, after] = [draft.drafted?.before, draft.after]
  if (!now || !after) return []
  const least = draft.drafted?.expectedLateDaysBound ?? 0
  const bound =
    after.score.lateDays === after.score.lateDaysBound
      ? 'no schedule has fewer'
      : `none can have fewer than ${after.score.lateDaysBound}`
  return [
    {
      name: 'Late days expected',
      text: `${now.expectedLateDays.toFixed(1)} → ${after.expectedLateDays.toFixed(1)}`,
      note: `by the forecast${least >= 0.1 ? `; no plan has under ${least.toFixed(1)}` : ''}`,
    },
    {
      name: 'Late as planned',
      text: `${now.score.lateDays} → ${after.score.lateDays}`,
      note: bound,
    },
    { name: 'Over capacity', text: `${now.over} → ${after.over}`, note: '' },
    { name: 'Broken needs', text: `${now.broken} → ${after.broken}`, note: '' },
    ...(now.missed.length || after.missed.length
      ? [
          {
            name: 'Agreed days missed',
            text: `${now.missed.length} → ${after.missed.length}`,
            note: after.missed.map(breaks).join('; '),
          },
        ]
      : []),
    { name: 'Left unplaced', text: String(after.unplaced), note: '' },
  ]
})
/** Whose figures these are. */
const whose = computed(() => {
  if (draft.accepted.size === draft.proposals.length) return 'With all that is left of it'
  if (!draft.accepted.size) return 'As the plan is: nothing is ticked'
  return `With the ${count(draft.accepted.size, 'ticked move')}`
})

/** What stands in the list: the moves, or what the draft found no place for. */
const showing = ref<'moves' | 'unplaced'>('moves')
watch(
  () => draft.busy,
  () => (showing.value = 'moves'),
)
const router = useRouter()
const inBacklog = (item: string) =>
  router.push({ name: 'backlog', params: { id: store.id }, query: { item } })
const inSetUp = (tab: string) => router.push({ name: `set-up-${tab}`, params: { id: store.id } })
type Left = Drafted['draft']['unplaced'][number]
/** What would mend that an item has no place, and where that is done. */
function remedy({ item, why }: Left): { text: string; go: () => unknown } | undefined {
  const there = () => inBacklog(item)
  switch (why.code) {
    case 'no-size':
      return { text: 'Size it', go: there }
    case 'no-team':
      return { text: 'Give it a team', go: there }
    case 'too-large':
      return why.team
        ? { text: 'Give the team a velocity', go: () => inSetUp('teams') }
        : { text: 'Split it', go: there }
    case 'not-before-last':
    case 'cycle':
      return { text: 'See it in the backlog', go: there }
    case 'no-role':
      return { text: 'See the people', go: () => inSetUp('people') }
    case 'no-room':
      return { text: 'See the calendar', go: () => inSetUp('calendar') }
    case 'waits-for-unplaced':
      return { text: `See ${why.item}`, go: () => inBacklog(why.item ?? item) }
    default:
      return undefined
  }
}

/** Whether the ticked moves can be taken over now. */
const acceptable = computed(() => draft.accepted.size > 0 && !draft.stale && !draft.busy && store.connected)
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (!event.ctrlKey || event.key !== 'Enter' || keysRest(event) || !acceptable.value) return
  event.preventDefault()
  void draft.accept()
})

function look(p: { item: string }): void {
  plan.select(p.item)
  plan.reveal(p.item)
}
</script>

<template>
  <section class="draft" data-region aria-label="Draft of a schedule">
    <div class="side">
      <header>
        <h2>Draft</h2>
        <span class="gap" />
        <span v-if="draft.searching" class="quiet small" role="status">looking for better…</span>
        <Button
          v-if="draft.busy || draft.searching"
          size="small"
          outlined
          label="Stop"
          @click="draft.stop()"
        />
        <Button v-else size="small" outlined label="Draft again" @click="draft.draft()" />
      </header>
      <label class="fill"
        >Aim
        <select v-model="draft.aim" class="in">
          <option value="odds">odds of the forecast</option>
          <option value="dates">dates as planned</option>
        </select></label
      >
      <div class="fill">
        Of
        <select v-model="draft.release" class="in" aria-label="Of which release">
          <option value="">all releases</option>
          <option v-for="r in store.program.releases" :key="r.key" :value="r.key">{{ r.name }}</option>
        </select>
        <select v-model="draft.team" class="in" aria-label="Of which team">
          <option value="">all teams</option>
          <option v-for="t in store.program.teams" :key="t.key" :value="t.key">{{ t.name }}</option>
        </select>
      </div>
      <div class="fill">
        <label
          ><input v-model="draft.onlySelected" type="checkbox" :disabled="!plan.selection.length" />
          {{
            plan.selection.length
              ? `Only the ${count(plan.selection.length, 'selected item')}`
              : 'Only selected items'
          }}</label
        >
        <label title="Fewest moves from today's plan come first"
          ><input v-model="draft.keepClose" type="checkbox" /> Keep close</label
        >
      </div>
      <div class="fill">
        <label
          title="Where there is none: the usual size of the team and kind; the item itself stays without one"
          ><input v-model="draft.assumeSizes" type="checkbox" /> Assume missing sizes</label
        >
        <label
          v-if="store.agree"
          title="Days on which teams agreed for what they need of each other are dates to meet"
          ><input v-model="draft.keepAgreed" type="checkbox" /> Keep agreed days</label
        >
      </div>
      <div class="fill">
        Fill to
        <InputNumber
          v-model="draft.fillTo"
          :min="10"
          :max="100"
          suffix=" %"
          aria-label="Fill to, percent of capacity"
        />
        <span title="So many of each team's next iterations stay as they are">keep the next</span>
        <InputNumber
          v-model="draft.freeze"
          class="few"
          :min="0"
          :max="100"
          aria-label="Keep so many of the next iterations as they are"
        />
        <label title="The days of members with an item's role, and of who is assigned to it, are limits too"
          ><input v-model="draft.roles" type="checkbox" /> Respect roles</label
        >
      </div>
    </div>
    <div class="effects">
      <p v-if="draft.failure" role="alert" class="failure">{{ draft.failure }}</p>
      <p v-else-if="draft.busy && !draft.drafted" role="status">Drafting…</p>
      <template v-else>
        <p v-if="draft.better" role="status">
          A better draft was found: {{ draft.better.after.expectedLateDays.toFixed(1) }} late days expected.
          <button class="link" @click="draft.show(draft.better)">Show it</button>
        </p>
        <p v-if="draft.stale" class="failure" role="status">
          The plan has changed since this was drafted. Draft again before accepting.
        </p>
        <p class="quiet small whose" role="status">{{ whose }}{{ draft.asking ? ' …' : '' }}</p>
        <dl>
          <template v-for="c in counts" :key="c.name">
            <dt class="quiet">{{ c.name }}</dt>
            <dd>
              <button
                v-if="c.name === 'Left unplaced' && draft.drafted?.draft.unplaced.length"
                class="link"
                :aria-pressed="showing === 'unplaced'"
                @click="showing = showing === 'unplaced' ? 'moves' : 'unplaced'"
              >
                <b>{{ c.text }}</b>, {{ showing === 'unplaced' ? 'back to the moves' : 'why' }}
              </button>
              <template v-else>
                <b>{{ c.text }}</b> <span class="quiet small">{{ c.note }}</span>
              </template>
            </dd>
          </template>
          <template v-for="e in effects" :key="e.name">
            <dt class="quiet">{{ e.name }}</dt>
            <dd>
              {{ e.text }} ·
              <button
                class="link"
                :aria-label="`Fix ${e.name}: recovery options`"
                @click="levers.open({ release: e.key })"
              >
                Fix…
              </button>
            </dd>
          </template>
        </dl>
      </template>
    </div>
    <div class="moves">
      <header>
        <template v-if="showing === 'moves'">
          <h2>{{ count(draft.proposals.length, 'move') }}</h2>
          <span class="quiet small" title="Nothing moves before you accept"
            >nothing moves before you accept</span
          >
        </template>
        <h2 v-else>{{ count(draft.drafted?.draft.unplaced.length ?? 0, 'item') }} left unplaced</h2>
        <span class="gap" />
        <Button
          size="small"
          text
          label="Tick all"
          :disabled="!draft.proposals.length"
          @click="draft.tickAll(true)"
        />
        <Button
          size="small"
          text
          label="Untick all"
          :disabled="!draft.proposals.length"
          @click="draft.tickAll(false)"
        />
        <Button
          size="small"
          text
          label="Keep as scenario…"
          :disabled="!draft.accepted.size || draft.stale || !scenarios.mayMake"
          @click="draft.keep()"
        />
        <Button size="small" outlined label="Discard" @click="draft.discard()" />
        <Button
          size="small"
          :label="
            draft.accepted.size === draft.proposals.length ? 'Accept all' : `Accept ${draft.accepted.size}`
          "
          :disabled="!acceptable"
          title="Ctrl+Enter"
          @click="draft.accept()"
        />
      </header>
      <p v-if="draft.drafted && !draft.proposals.length && showing === 'moves'" class="quiet">
        This draft would move nothing: the plan already stands where it would put it.
      </p>
      <ul v-else-if="showing === 'unplaced'" class="rows left" aria-label="Left unplaced">
        <li v-for="x in draft.drafted?.draft.unplaced" :key="x.item" class="row">
          <button class="link" :title="store.items.get(x.item)?.title" @click="look(x)">
            <b>{{ x.item }}</b> {{ store.items.get(x.item)?.title }}
          </button>
          <span class="why" :title="x.why.text">{{ x.why.text }}</span>
          <button v-if="remedy(x)" class="chip" @click="remedy(x)?.go()">{{ remedy(x)?.text }}</button>
        </li>
      </ul>
      <div v-else v-bind="containerProps" class="rows" tabindex="-1">
        <div v-bind="wrapperProps">
          <div v-for="{ data: p } in list" :key="p.key" class="row">
            <input
              type="checkbox"
              :checked="draft.accepted.has(p.key)"
              :aria-label="`Accept the move of ${p.item}`"
              @change="draft.toggle(p.key)"
            />
            <button class="link" :title="store.items.get(p.item)?.title" @click="look(p)">
              <b>{{ p.item }}</b> {{ store.items.get(p.item)?.title }}
            </button>
            <span class="path" :title="goal(p)">
              <span v-if="p.places" class="rough-mark">rough</span>
              <template v-else>{{ place(p, p.from) }} →</template> <b>{{ goal(p) }}</b>
            </span>
            <span class="why quiet" :title="[p.why.text, p.why.earlier].filter(Boolean).join('. ')"
              ><span v-if="p.assumed !== undefined" class="assumed">size taken as {{ p.assumed }}</span>
              {{ p.why.text }}</span
            >
          </div>
        </div>
      </div>
    </div>
  </section>
</template>

<style scoped>
.draft {
  display: flex;
  flex: 1;
  min-width: 0;
  box-shadow: inset 0 3px 0 var(--focus);
}

.side,
.effects,
.moves {
  display: flex;
  flex-direction: column;
  gap: 5px;
  padding: 8px 14px;
  min-height: 0;
}

.side {
  flex: none;
  width: 362px;
  overflow-y: auto;
}

.effects {
  flex: none;
  width: 300px;
  border-inline: 1px solid var(--rule);
  overflow-y: auto;
}

.moves {
  flex: 1;
  min-width: 0;
}

h2 {
  font-size: 15px;
  white-space: nowrap;
}

label,
.fill {
  display: flex;
  gap: 6px;
  align-items: center;
}

.fill {
  white-space: nowrap;
}

.fill select {
  flex: 1;
  min-width: 0;
}

.fill :deep(.p-inputnumber-input) {
  width: 62px;
  padding: 2px 6px;
}

.fill :deep(.few .p-inputnumber-input) {
  width: 40px;
}

.effects p {
  margin: 0;
}

.failure {
  color: var(--over);
}

dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 2px 10px;
  margin: 0;
}

dd {
  margin: 0;
}

header {
  display: flex;
  gap: 6px;
  align-items: center;
}

header .small {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

header :deep(.p-button) {
  flex: none;
  white-space: nowrap;
}

.gap {
  flex: 1;
}

.rows {
  flex: 1;
  min-height: 0;
}

.row {
  display: grid;
  grid-template-columns: 18px minmax(80px, 1fr) 132px minmax(80px, 1.1fr);
  gap: 8px;
  align-items: center;
  height: 26px;
  border-bottom: 1px solid var(--rule);
}

.assumed {
  padding: 0 5px;
  border: 1px dashed var(--rule);
  border-radius: 3px;
}

.left {
  margin: 0;
  padding: 0;
  list-style: none;
  overflow: auto;
}

.left .row {
  grid-template-columns: minmax(80px, 1fr) minmax(120px, 1.3fr) auto;
}

.row > * {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.link {
  padding: 0;
  border: 0;
  background: none;
  text-align: left;
  cursor: pointer;
}
</style>
