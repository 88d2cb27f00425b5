<script setup lang="ts">
import { shortDate } from '@/ui/dates'
import { useProgram } from '@/line/program'
import { responses, riskStates, useRisks, type RiskRow } from './risks'

/** All risks as a list, the most exposed first. */
defineProps<{ held: string }>()
const emit = defineEmits<{ key: [row: RiskRow, event: KeyboardEvent] }>()
const store = useProgram()
const risks = useRisks()
const response = (row: RiskRow) => responses.find(([key]) => key === (row.risk.response ?? ''))?.[1]
const rating = ({ stands }: RiskRow) =>
  stands.unrated && !stands.chance && !stands.impact
    ? 'not rated'
    : `${risks.scales.chance[stands.chance - 1] ?? '?'} × ${risks.scales.impact[stands.impact - 1] ?? '?'}`
const state = (row: RiskRow) => riskStates.find(([key]) => key === row.risk.state)?.[1]
</script>

<template>
  <div class="head quiet small" aria-hidden="true">
    <span>What may happen</span><span>Chance × impact</span><span>Response, who watches</span
    ><span>What it costs the releases</span>
  </div>
  <ul aria-label="Risks">
    <li
      v-for="row in risks.rows"
      :key="row.risk.key"
      :class="{ over: row.stands.over, open: risks.cursor === row.risk.key }"
      :data-risk="row.risk.key"
      :tabindex="held === row.risk.key ? 0 : -1"
      :aria-label="[row.risk.key, row.risk.title, rating(row), ...row.stands.calls].join(', ')"
      @keydown="emit('key', row, $event)"
      @focus="risks.cursor = row.risk.key"
      @click="risks.cursor = row.risk.key"
    >
      <div>
        <b>{{ row.risk.key }}</b> {{ row.risk.title }}
        <p v-if="row.stands.over" class="quiet small">{{ state(row) }}</p>
        <p v-else-if="row.stands.calls.length" class="calls small">{{ row.stands.calls.join(', ') }}</p>
      </div>
      <div class="rating">
        <span class="bar" aria-hidden="true"
          ><span :style="{ width: `${100 * row.stands.exposure}%` }"
        /></span>
        <span class="small">{{ rating(row) }}</span>
      </div>
      <div>
        {{ response(row) }}
        <p class="quiet small">
          {{ risks.person(row.risk.owner)
          }}<template v-if="row.risk.again"
            >{{ row.risk.owner ? ', ' : '' }}again {{ shortDate(row.risk.again, store.todayDay) }}</template
          ><template v-if="row.stands.left"
            >, {{ row.stands.left === 1 ? '1 action to do' : `${row.stands.left} actions to do` }}</template
          >
        </p>
      </div>
      <div class="small" :class="{ quiet: risks.asking }">
        <template v-if="row.stands.played">
          <p v-for="g in risks.gains(row.worth)" :key="g">{{ g }}</p>
          <p v-if="row.worth && !risks.gains(row.worth).length" class="quiet">nothing to speak of</p>
          <p v-else-if="!row.worth" class="quiet">{{ risks.asking ? 'playing…' : '' }}</p>
        </template>
        <span v-else-if="!row.stands.over" class="quiet">not played</span>
      </div>
    </li>
  </ul>
</template>

<style scoped>
.head,
li {
  display: grid;
  grid-template-columns: minmax(220px, 2fr) 140px minmax(150px, 1fr) minmax(170px, 1fr);
  gap: 0 16px;
  padding: 5px 12px;
}

ul {
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--rule);
  list-style: none;
}

li {
  border-bottom: 1px solid var(--rule);
  cursor: default;
  overflow-wrap: anywhere;
}

li.open {
  background: var(--tint);
}

li:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: -2px;
}

p {
  margin: 0;
}

.over {
  color: var(--quiet);
}

.calls {
  color: var(--over);
}

.bar {
  display: block;
  height: 6px;
  margin: 7px 0 3px;
  border-radius: 3px;
  background: var(--tint);
}

.open .bar {
  background: var(--paper);
}

.bar span {
  display: block;
  height: 100%;
  border-radius: 3px;
  background: var(--over);
}
</style>
