<script setup lang="ts">
import { computed } from 'vue'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { roughText } from '@/line/rollup'
import { shortDate } from '@/ui/dates'
import { sized } from '@/ui/format'
import MoveButtons from './MoveButtons.vue'
import type { RoughBlock } from './rough'

/** What is rough and selected: of which item, how far that is covered, and where it stands. */
const props = defineProps<{ block: RoughBlock }>()
const store = useProgram()
const team = computed(() => store.teams.get(props.block.team ?? ''))
const iteration = computed(() => team.value?.iterations?.find((it) => it.key === props.block.iteration))
const where = computed(() => {
  const it = iteration.value
  return it
    ? `${it.name ?? it.key} · ${shortDate(it.start)} – ${shortDate(it.end, store.todayDay)}`
    : 'unplaced'
})
const facts = computed(() =>
  store.itemFacts.get(props.block.of)?.rough?.find((r) => r.team === props.block.team),
)
const fixed = computed(
  () => !store.may({ op: 'set', kind: 'item', key: props.block.of, field: 'roughPlaces' }),
)
const { answer: why, failure: whyNot } = useAnswer(
  () => store.reason(props.block.of),
  [() => props.block.key, () => store.revision],
  { forget: ([key], [before]) => key !== before },
)
</script>

<template>
  <section class="panel" data-region aria-label="Selected rough size">
    <header>
      <h2>
        <span class="quiet">{{ block.of }}</span> {{ block.title }}
      </h2>
      <span class="rough-mark">rough</span>
      <span class="quiet">{{ where }}</span>
    </header>
    <p v-if="facts">
      <b>{{ sized(block.size, team) }}</b> of {{ roughText(facts, store) }}
    </p>
    <div class="moves">
      <MoveButtons :fixed="fixed" :placed="!!block.iteration" />
      <RouterLink class="link" :to="{ name: 'backlog', params: { id: store.id }, query: { item: block.of } }"
        >Write its items</RouterLink
      >
    </div>
    <p>
      <span class="quiet small">About the last of it</span><br />{{ why?.text ?? whyNot }}{{ why ? '.' : '' }}
    </p>
    <p class="quiet small">
      What is rough is planned in pieces of the team's usual size. Items that are written take its place.
    </p>
  </section>
</template>

<style scoped>
.panel {
  flex: 1;
  min-width: 0;
  padding: 8px 16px 4px 14px;
  overflow-y: auto;
  background: var(--paper);
}

header,
.moves {
  display: flex;
  gap: 8px;
  align-items: center;
}

h2 {
  font-size: 15px;
}

p {
  margin: 4px 0 8px;
}
</style>
