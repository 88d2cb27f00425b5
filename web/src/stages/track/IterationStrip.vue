<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { asDate, shortDate, toDate, toDay } from '@/ui/dates'
import { amount, count, sized } from '@/ui/format'
import { useChartThis } from '@/line/chartThis'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import BurnDown from './BurnDown.vue'
import { useTrack, type Section } from './track'
import { buildText, deployedText } from '@/line/signals'
import { momentOf, stepText, whenText } from './words'

/** An iteration under way in one strip: its goal, how far it is, its burndown and what happened. */
const props = defineProps<{ section: Section }>()
const emit = defineEmits<{ start: []; close: [] }>()
const store = useProgram()
const proposals = useProposals()
const track = useTrack()
const chartThis = useChartThis()

const team = computed(() => store.teams.get(props.section.team))
const under = computed(() => props.section.under)
const it = computed(() => team.value?.iterations?.find((x) => x.key === under.value.iteration))
const label = computed(() => it.value?.name || it.value?.key || '')
const facts = computed(() => store.iterationFacts.get(props.section.team, under.value.iteration))
const open = computed(() => it.value?.state === 'open')
const ended = computed(() => !!it.value && it.value.end < store.today)
const may = computed(() =>
  store.may({
    op: 'set',
    kind: 'iteration',
    in: props.section.team,
    key: under.value.iteration,
    field: 'state',
  }),
)
const day = computed(() => {
  if (ended.value) return `ended ${shortDate(it.value!.end, store.todayDay)}`
  if (!open.value)
    return it.value && it.value.start > store.today
      ? `begins ${shortDate(it.value.start, store.todayDay)}`
      : 'not started'
  return under.value.gone ? `day ${under.value.gone} of ${under.value.days.length}` : 'begins soon'
})
const usual = computed(() => {
  const u = under.value.usual
  return u && `usual by now ${amount(u.share * under.value.start.size)}`
})
const likely = computed(() => {
  const at = under.value.likely.find((l) => l.odds === 85)
  if (!at || ended.value || !under.value.left.items) return ''
  return `85 % odds of ${sized(at.size, team.value)} or more by ${shortDate(it.value!.end, store.todayDay)}`
})
/** What is to be looked at among what is not done. */
const counts = computed(() => {
  const open = props.section.rows.filter((r) => r.item.state !== 'done')
  const of = (n: number, what: string) => (n ? `${n} ${what}` : '')
  return [
    of(open.filter((r) => r.item.blocked).length, 'blocked'),
    of(open.filter((r) => r.chance !== undefined && r.chance < 0.5).length, 'at risk'),
    of(open.filter((r) => r.at === 0).length, 'untouched'),
  ]
    .filter(Boolean)
    .join(' · ')
})
/** What has changed since the start, in words; sizes add up to what there is now. */
const ledger = computed(() => {
  const u = under.value
  const of = (sum: { items: number; size: number }, sign: string, what: string) =>
    sum.items ? `${sign}${count(sum.items, 'item')}, ${sign}${sized(sum.size, team.value)} ${what}` : ''
  return [
    of(u.added, '+', 'in'),
    of(u.removed, '−', 'out'),
    u.grown.size ? `+${sized(u.grown.size, team.value)} grown` : '',
    u.shrunk.size ? `−${sized(u.shrunk.size, team.value)} smaller` : '',
  ].filter(Boolean)
})
/** The journal may begin within the iteration. */
const begins = computed(() => {
  const from = Math.floor(momentOf(under.value.from))
  return it.value && from > toDay(it.value.start) ? shortDate(toDate(from), store.todayDay) : ''
})
/** Builds that are red, and else how many are green; and what runs where. */
const builds = computed(() => {
  const all = team.value?.builds ?? []
  return { red: all.filter((b) => b.state === 'red'), green: all.filter((b) => b.state === 'green').length }
})
const now = computed(() => asDate(store.todayDay))
const listed = ref(false)
/** The last closed one, which can be opened again. */
const closed = computed(() => team.value?.iterations?.filter((x) => x.state === 'closed').at(-1))

const editing = ref<string>()
async function keepGoal(): Promise<void> {
  const goal = (editing.value ?? '').trim()
  editing.value = undefined
  if (!it.value || goal === (it.value.goal ?? '')) return
  await store.apply(`Goal of ${label.value}`, [
    {
      op: 'set',
      kind: 'iteration',
      in: props.section.team,
      key: it.value.key,
      field: 'goal',
      value: goal || null,
    },
  ])
}
</script>

<template>
  <div class="strip">
    <div class="say">
      <h2>
        {{ team?.name }} <span class="which">{{ label }} · {{ day }}</span>
      </h2>
      <form v-if="editing !== undefined" @submit.prevent="keepGoal">
        <input
          v-model="editing"
          v-focus
          class="in"
          maxlength="300"
          :aria-label="`Goal of ${label}`"
          @keydown.esc.stop="editing = undefined"
          @blur="keepGoal"
        />
      </form>
      <p v-else class="goal quiet">
        <template v-if="it?.goal">Goal: {{ it.goal }}</template>
        <button v-if="may" class="link" @click="editing = it?.goal ?? ''">
          {{ it?.goal ? 'change' : 'Say what it is for' }}
          <span class="visually-hidden">: goal of {{ label }}</span>
        </button>
      </p>
      <p>
        <b>{{ amount(under.done.size) }}</b> of {{ sized(under.total.size, team) }} done,
        {{ under.done.items }} of {{ count(under.total.items, 'item')
        }}<template v-if="it?.committed !== undefined"> · {{ sized(it.committed, team) }} committed</template
        ><template v-if="usual"> · {{ usual }}</template>
      </p>
      <p v-if="!open && facts" class="quiet">
        Carries {{ sized(facts.load, team) }} of {{ sized(facts.capacity, team)
        }}<template v-if="facts.unsized"> and {{ count(facts.unsized, 'item') }} without a size</template>
      </p>
      <p v-if="likely">{{ likely }}</p>
      <p v-if="counts && open" title="At risk: done by the last day in less than half of the plays">
        {{ counts }}
      </p>
      <p v-for="b in builds.red" :key="b.name" class="red">
        <a v-if="b.address" :href="b.address" target="_blank" rel="noopener noreferrer"
          >Build {{ buildText(b, now) }}</a
        >
        <template v-else>Build {{ buildText(b, now) }}</template>
      </p>
      <p v-if="builds.green && !builds.red.length" class="quiet">
        {{ builds.green === 1 ? 'Its build is green' : `All ${builds.green} builds are green` }}
      </p>
      <div v-if="may" class="do">
        <Button v-if="!open && !ended" size="small" :label="`Start ${label}…`" @click="emit('start')" />
        <Button v-else size="small" outlined :label="`Close ${label}…`" @click="emit('close')" />
        <button
          v-if="closed"
          class="link small"
          @click="proposals.propose({ do: 'reopen-iteration', team: section.team, key: closed.key })"
        >
          Open {{ closed.name || closed.key }} again…
        </button>
        <RouterLink
          v-if="closed"
          class="link small"
          :to="{ query: { as: 'review', team: section.team, iteration: closed.key } }"
          >Review {{ closed.name || closed.key }}</RouterLink
        >
      </div>
      <RouterLink
        class="link small"
        :to="
          chartThis({
            of: 'items',
            team: section.team,
            filter: { conditions: [{ field: 'iteration', is: 'is', values: [under.iteration] }] },
            split: ['assignee', 'state'],
            measure: 'size',
            form: 'stacked',
          })
        "
        >Chart {{ label }}</RouterLink
      >
    </div>
    <BurnDown
      v-if="it && (open || it.start <= store.today)"
      class="picture"
      :under="under"
      :team="team"
      :start="it.start"
      :end="it.end"
      :hours="track.burn === 'hours'"
    />
    <p v-else class="quiet">It has not begun.</p>
    <div class="since small">
      <b>Since the start</b>
      <p v-if="begins" class="quiet">The journal begins {{ begins }}; what was before is not known.</p>
      <p v-for="text in ledger" :key="text">{{ text }}</p>
      <p v-if="!ledger.length" class="quiet">Nothing was added or taken out.</p>
      <template v-if="team?.deployed">
        <b>What runs where</b>
        <p v-for="d in team.deployed" :key="d.place">{{ deployedText(d, now) }}</p>
      </template>
      <button v-if="under.steps.length" class="link" :aria-expanded="listed" @click="listed = !listed">
        {{ listed ? 'Hide events' : count(under.steps.length, 'event') }}
      </button>
    </div>
    <ol v-if="listed" class="events small" :aria-label="`Events of ${label}, the newest first`">
      <li v-for="(step, i) in [...under.steps].reverse()" :key="i">
        <span class="quiet">{{ whenText(step.at) }}</span> {{ step.by }}:
        <RouterLink :to="{ name: 'backlog', params: { id: store.id }, query: { item: step.item } }">{{
          stepText(step, team)
        }}</RouterLink>
        <span class="quiet"> · {{ sized(step.total.size - step.done.size, team) }} left</span>
        <template v-if="step.why"> · {{ step.why }}</template>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.red,
.red a {
  color: var(--over);
  font-weight: 600;
}

.strip {
  display: grid;
  grid-template-columns: var(--courses);
  gap: 6px 20px;
  padding: 10px 16px;
  border-top: 2px solid var(--edge);
  background: var(--panel);
}

h2 {
  margin: 0;
  font-size: 17px;
}

.which {
  font-family: var(--text);
  font-size: 14px;
  font-weight: 600;
}

p {
  margin: 2px 0;
}

.goal {
  overflow-wrap: anywhere;
}

.do {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-top: 6px;
}

.since {
  overflow-wrap: anywhere;
}

.events a {
  color: inherit;
}

.events {
  display: grid;
  grid-column: 1 / -1;
  gap: 2px;
  max-height: 180px;
  margin: 0;
  padding: 6px 0 0;
  border-top: 1px solid var(--rule);
  overflow-y: auto;
  list-style: none;
}
</style>
