<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import type { Item, Need } from '@/api/types'
import { pair } from './pair'
import { shortDate } from '@/ui/dates'
import { spareText } from '@/ui/format'
import AnswerForm from './AnswerForm.vue'
import ItemPicker from './ItemPicker.vue'
import { useWords, type NeedWord } from './needWords'
import { useProgram } from './program'

const props = defineProps<{ item: Item; mendable?: boolean }>()
const store = useProgram()
const emit = defineEmits<{ jump: [key: string]; mend: [need: Need] }>()

const needs = computed(() => (store.program.needs ?? []).filter((n) => n.item === props.item.key))
const neededBy = computed(() => (store.program.needs ?? []).filter((n) => n.needs === props.item.key))

const row = (need: Need, other: string) => {
  const facts = store.needFacts.get(pair(need.item, need.needs))
  const item = store.items.get(other)
  return {
    need,
    other,
    title: item?.title ?? '',
    within: store.items.get(need.item)?.team === store.items.get(need.needs)?.team,
    team: store.teams.get(item?.team ?? '')?.name ?? '',
    status: facts?.status ?? 'holds',
    missed: facts?.missed ?? false,
    spare:
      item?.state === 'done' && other === need.needs
        ? 'done'
        : spareText(facts?.spare, facts?.status ?? 'holds'),
  }
}

const groups = computed(() => [
  { title: 'Needs', rows: needs.value.map((n) => row(n, n.needs)), removable: true },
  { title: 'Needed by', rows: neededBy.value.map((n) => row(n, n.item)), removable: false },
])

const may = (op: 'add' | 'remove', need: Need) =>
  store.may({ op, kind: 'need', in: need.item, key: need.needs })

const { words, say } = useWords()
/** What may be said to a need between two teams; nothing within one. */
const saying = (need: Need) => {
  const [a, b] = [store.items.get(need.item)?.team, store.items.get(need.needs)?.team]
  if (a && a === b) return []
  const { yes, others } = words(need)
  return yes ? [yes, ...others] : others
}
/** How far the two teams have come: with the day, if there is one. */
const agreed = (need: Need) =>
  [
    need.agreement ?? 'asked',
    need.given &&
      (need.agreement === 'agreed' || need.agreement === 'offered') &&
      shortDate(need.given, store.todayDay),
  ]
    .filter(Boolean)
    .join(' ')
/** What more there is to know of it. */
const saysOf = (r: { need: Need; missed: boolean }) =>
  [r.need.why, r.missed && 'The plan has it done after the day that the two teams agreed on.']
    .filter(Boolean)
    .join(' ')
/** The need that is being answered. */
const answering = ref('')
const answer = async (need: Need, word: NeedWord, said: { date?: string; why?: string }) => {
  answering.value = ''
  await say(need, word, said)
}

function remove(need: Need): void {
  void store.apply(`Remove the need of ${need.item} on ${need.needs}`, [
    { op: 'remove', kind: 'need', in: need.item, key: need.needs },
  ])
}

const root = ref<HTMLElement>()
/** What is needed already, and the item itself: neither can be needed. */
const taken = computed(() => [props.item.key, ...needs.value.map((n) => n.needs)])

function focusAdd(): void {
  void nextTick(() => root.value?.querySelector<HTMLElement>('.add input')?.focus())
}

defineExpose({ focusAdd })
</script>

<template>
  <div ref="root" class="needs">
    <section v-for="group in groups" :key="group.title">
      <h3 class="quiet small">{{ group.title }}</h3>
      <p v-if="!group.rows.length" class="quiet nothing">nothing</p>
      <RouterLink
        v-else-if="group.removable"
        class="link chain small"
        :to="{
          name: 'plan',
          params: { id: store.id },
          query: { as: 'needs', show: 'chains', of: `item:${item.key}` },
        }"
        >Its longest chain</RouterLink
      >
      <div v-for="r in group.rows" :key="r.other" class="need">
        <button class="link" :title="`${r.other} ${r.title}`" @click="emit('jump', r.other)">
          <b>{{ r.other }}</b> {{ r.title }}
        </button>
        <span class="quiet team">{{ r.team }}</span>
        <button
          v-if="saying(r.need).length"
          class="link says"
          :class="{ missed: r.missed }"
          :title="saysOf(r)"
          :aria-label="`Agreement on ${r.other}: ${agreed(r.need)}${r.missed ? ', missed' : ''}. Answer…`"
          :aria-expanded="answering === r.other"
          @click="answering = answering === r.other ? '' : r.other"
        >
          {{ agreed(r.need) }}{{ r.missed ? ', missed' : '' }}
        </button>
        <span v-else :class="['says', r.missed ? 'missed' : 'quiet']" :title="saysOf(r)">{{
          r.within || !store.agree ? '' : agreed(r.need) + (r.missed ? ', missed' : '')
        }}</span>
        <span
          ><b :class="['spare', r.status]">{{ r.spare }}</b>
          <button
            v-if="mendable && r.status === 'broken'"
            class="link mend"
            :aria-label="`Fix the dependency of ${r.need.item} on ${r.need.needs}: recovery options`"
            @click="emit('mend', r.need)"
          >
            Fix…
          </button></span
        >
        <button
          v-if="group.removable && may('remove', r.need)"
          class="remove"
          :aria-label="`Remove the need on ${r.other}`"
          title="Remove this need"
          @click="remove(r.need)"
        >
          <i class="pi pi-times" aria-hidden="true" />
        </button>
        <span v-else />
        <AnswerForm
          v-if="answering === r.other && saying(r.need).length"
          class="form"
          :need="r.need"
          :words="saying(r.need)"
          @leave="answering = ''"
          @say="(word, said) => answer(r.need, word, said)"
        />
      </div>
      <ItemPicker
        v-if="group.removable && may('add', { item: item.key, needs: '' })"
        class="add"
        label="Add a need: key or words"
        :except="taken"
        @pick="store.addNeed(item.key, $event.key)"
      />
    </section>
  </div>
</template>

<style scoped>
.needs h3 {
  font: inherit;
  font-size: 11px;
  margin-top: 3px;
}

.nothing {
  margin: 0;
}

.need {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 84px) minmax(78px, auto) minmax(98px, auto) 20px;
  gap: 6px;
  align-items: center;
  min-height: 24px;
}

.mend {
  text-decoration: underline;
}

.link {
  padding: 0;
  border: 0;
  background: none;
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;
}

.link:hover {
  text-decoration: underline;
}

.team {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.spare {
  text-align: right;
  font-weight: 650;
  font-size: 12px;
  white-space: nowrap;
}

.spare.tight {
  color: var(--caution);
}

.spare.broken {
  color: var(--needs);
}

.remove {
  width: 20px;
  height: 20px;
  padding: 0;
  border: 0;
  border-radius: 4px;
  background: none;
  cursor: pointer;
}

.remove:hover {
  background: var(--over-soft);
}

.remove .pi {
  font-size: 10px;
}

.says {
  font-size: 12px;
  white-space: nowrap;
}

.says.missed {
  color: var(--needs);
  font-weight: 650;
}

button.says {
  text-decoration: underline;
}

.form {
  grid-column: 1 / -1;
  margin-bottom: 6px;
}

.add {
  margin: 2px 0;
}
</style>
