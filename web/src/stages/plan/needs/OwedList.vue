<script setup lang="ts">
import { ref } from 'vue'
import type { OwedNeed } from '@/api/types'
import { asDate, shortDate, timeText, toDay } from '@/ui/dates'
import { count, percent, spareText } from '@/ui/format'
import AnswerForm from '@/line/AnswerForm.vue'
import type { NeedWord } from '@/line/needWords'
import { useProgram } from '@/line/program'
import { useLevers } from '../levers'
import { useShow } from './useShow'

/** What is owed, each need a sentence with both ends in true time; it is agreed to, mended and led to from here. */
const props = defineProps<{
  owed: OwedNeed[]
  name: (key: string) => string
  chance: (o: OwedNeed) => number | undefined
  words: (o: OwedNeed) => { yes?: NeedWord; others: NeedWord[] }
}>()
const emit = defineEmits<{ say: [o: OwedNeed, word: NeedWord, said: { date?: string; why?: string }] }>()
const store = useProgram()
const show = useShow()
const levers = useLevers()
const day = (date?: string) => shortDate(date, store.todayDay)
const title = (key: string) => store.items.get(key)?.title ?? ''

/** Where both ends lie on one axis, in percent; undefined where one has no place. */
function bars(o: OwedNeed) {
  if (!o.from || !o.until || !o.starts || !o.ends) return undefined
  const first = Math.min(toDay(o.from), toDay(o.starts))
  const span = Math.max(toDay(o.until), toDay(o.ends)) + 1 - first
  const at = (start: string, end: string) => ({
    left: `${(100 * (toDay(start) - first)) / span}%`,
    width: `${(100 * (toDay(end) + 1 - toDay(start))) / span}%`,
  })
  return { needed: at(o.from, o.until), waits: at(o.starts, o.ends) }
}
const says = (o: OwedNeed) => {
  const days = spareText(o.spare, o.status)
  return days[0].toUpperCase() + days.slice(1)
}
const when = (o: OwedNeed) =>
  [
    o.by ? `wanted by ${day(o.by)}` : 'what waits has no place',
    o.until ? `done by ${day(o.until)}` : 'has no place',
  ]
    .join('; ')
    .replace(/^\w/, (c) => c.toUpperCase())

const key = (o: OwedNeed) => `${o.item} ${o.needs} ${o.gives} ${o.waits}`
/** The need that is being answered. */
const answering = ref('')
function toggle(o: OwedNeed): void {
  answering.value = answering.value === key(o) ? '' : key(o)
}
function say(o: OwedNeed, word: NeedWord, said: { date?: string; why?: string }): void {
  answering.value = ''
  emit('say', o, word, said)
}
/** How far the two teams have come, in a sentence. */
function agreed(o: OwedNeed): string {
  const said = {
    asked: 'Asked for, not agreed',
    offered: `${props.name(o.gives)} offers ${day(o.given)}`,
    agreed: o.given ? `Agreed for ${day(o.given)}` : 'Agreed',
    declined: 'Declined',
  }[o.agreement]
  return o.why ? `${said}: “${o.why}”` : `${said}.`
}
const yes = (o: OwedNeed, word: NeedWord) =>
  word === 'accept'
    ? { name: `Accept ${day(o.given)}`, says: `Accept ${o.needs} for ${o.item} by ${day(o.given)}` }
    : {
        name: o.by ? `Agree to ${day(o.by)}` : 'Agree',
        says: `Agree that ${o.needs} is given to ${o.item}${o.by ? ` by ${day(o.by)}` : ''}`,
      }
/** What else there is to say, where that is but one thing. */
const other = (o: OwedNeed) => {
  const { others } = props.words(o)
  if (others.length > 1 || others[0] !== 'ask') return 'Answer…'
  return o.agreement === 'asked' || o.agreement === 'agreed' ? 'Ask for another day…' : 'Ask again…'
}
const missed = (o: OwedNeed) =>
  o.until && o.given
    ? `The plan has it done on ${day(o.until)}, ${count(toDay(o.until) - toDay(o.given), 'day')} after the day that was agreed on.`
    : 'It was agreed on, and the plan has no place for it.'

async function mend(o: OwedNeed): Promise<void> {
  await show(o.item)
  levers.open({ need: { item: o.item, needs: o.needs } })
}
</script>

<template>
  <ul>
    <li v-for="o in owed" :key="key(o)" :class="o.status">
      <p class="top">
        <span>
          <button class="link" @click="show(o.item)">{{ o.item }}</button> {{ title(o.item) }}
          <span class="quiet">needs</span>{{ ' ' }}
          <button class="link" @click="show(o.needs)">{{ o.needs }}</button> {{ title(o.needs) }}
        </span>
        <span class="marks">
          <b v-if="o.ours" class="ours">To answer</b>
          <b v-if="o.overdue" class="overdue">Overdue</b>
          <b class="spare">{{ says(o) }}</b>
        </span>
      </p>
      <div v-if="bars(o)" class="bars" aria-hidden="true">
        <span class="needed" :style="bars(o)!.needed" /><span class="waits" :style="bars(o)!.waits" />
      </div>
      <p class="quiet small">
        {{ name(o.gives) }} gives {{ name(o.waits) }}. {{ when(o) }}.
        <template v-if="chance(o) !== undefined"
          >In time with <b>{{ percent(chance(o)!) }}</b>.</template
        >
      </p>
      <details v-if="o.between?.length" class="small">
        <summary>It stands for {{ count(o.leaves, 'need') }} between items</summary>
        <ul class="between">
          <li v-for="b in o.between" :key="`${b.item} ${b.needs}`">
            <button class="link" @click="show(b.item)">{{ b.item }}</button> {{ title(b.item) }}
            <span class="quiet">needs</span>{{ ' ' }}
            <button class="link" @click="show(b.needs)">{{ b.needs }}</button> {{ title(b.needs) }}
            <span :class="b.status">{{ spareText(b.spare, b.status) }}</span>
          </li>
          <li v-if="o.leaves > o.between.length" class="quiet">and {{ o.leaves - o.between.length }} more</li>
        </ul>
      </details>
      <p v-if="o.missed" class="missed">{{ missed(o) }}</p>
      <p class="does">
        <span class="agreement"
          ><template v-if="store.agree"
            >{{ agreed(o)
            }}<span v-if="o.saidBy" class="quiet small">
              · {{ o.saidBy }}, {{ timeText(o.saidAt!, asDate(store.todayDay)) }}</span
            ></template
          ></span
        >
        <button
          v-if="words(o).yes"
          class="plain-button"
          :disabled="!store.connected"
          :aria-label="yes(o, words(o).yes!).says"
          @click="say(o, words(o).yes!, {})"
        >
          {{ yes(o, words(o).yes!).name }}
        </button>
        <button
          v-if="words(o).others.length"
          class="plain-button"
          :aria-expanded="answering === key(o)"
          :aria-label="`Answer ${o.needs} for ${o.item}`"
          @click="toggle(o)"
        >
          {{ other(o) }}
        </button>
        <button
          v-if="o.status === 'broken'"
          class="plain-button"
          :aria-label="`Fix the dependency of ${o.item} on ${o.needs}: recovery options`"
          @click="mend(o)"
        >
          Fix…
        </button>
      </p>
      <AnswerForm
        v-if="answering === key(o)"
        :need="o"
        :words="words(o).others"
        @leave="toggle(o)"
        @say="(word, said) => say(o, word, said)"
      />
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  gap: 10px;
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  content-visibility: auto;
  contain-intrinsic-size: auto 110px;
  padding: 9px 12px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--panel);
}

p {
  margin: 0;
}

.top {
  display: flex;
  gap: 12px;
  justify-content: space-between;
}

.link {
  font-weight: 650;
}

.marks {
  display: flex;
  flex: none;
  gap: 8px;
  align-items: baseline;
}

.ours,
.overdue {
  padding: 0 6px;
  border-radius: 4px;
  background: var(--ink);
  color: var(--panel);
  font-size: 12px;
}

.overdue {
  background: var(--over);
}

.spare {
  flex: none;
  font-weight: 500;
}

.broken .spare {
  color: var(--needs);
  font-weight: 700;
}

.tight .spare {
  color: var(--caution);
}

.between {
  gap: 2px;
  padding: 4px 0 0 14px;
}

.between li {
  padding: 0;
  border: 0;
  background: none;
  content-visibility: visible;
}

.between .broken {
  color: var(--needs);
}

.bars {
  position: relative;
  height: 22px;
  margin: 6px 0;
}

.bars span {
  position: absolute;
  height: 9px;
  border-radius: 3px;
}

.needed {
  top: 0;
  background: var(--water);
}

.waits {
  bottom: 0;
  border: 2px solid var(--ink);
}

.broken .waits {
  border-color: var(--needs);
}

.does {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 6px;
}

.agreement {
  margin-right: auto;
}

.missed {
  margin-top: 4px;
  color: var(--needs);
  font-weight: 600;
}
</style>
