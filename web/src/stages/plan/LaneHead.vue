<script setup lang="ts">
import { computed } from 'vue'
import type { Team } from '@/api/types'
import { amount, count, sized } from '@/ui/format'
import { usePlan } from './plan'
import { useChartThis } from '@/line/chartThis'
import { useProgram } from '@/line/program'

const props = defineProps<{ team: Team; open: boolean }>()
const store = useProgram()
const plan = usePlan()
const chartThis = useChartThis()
const facts = computed(() => store.teamFacts.get(props.team.key))
const rhythm = computed(() => {
  const cadence = store.program.cadences?.find((c) => c.key === props.team.cadence)
  if (!cadence) return ''
  return cadence.lengthDays % 7 === 0 ? `${cadence.lengthDays / 7}-week` : `${cadence.lengthDays}-day`
})
const carries = computed(() =>
  props.team.velocity === undefined ? props.team.unit : sized(props.team.velocity, props.team),
)
const pace = computed(() => facts.value?.pace ?? [])
const highest = computed(() => Math.max(1, ...pace.value))
</script>

<template>
  <div :class="['head', { open }]">
    <button
      class="name"
      :aria-expanded="open"
      :title="`${open ? 'Close' : 'Open'} the lane of ${team.name}`"
      @click="plan.toggleLane(team.key)"
    >
      <span class="title">{{ team.name }}</span>
      <span class="quiet small">{{ [rhythm, carries].filter(Boolean).join(' · ') }}</span>
    </button>
    <template v-if="open && facts">
      <div class="fact">
        <span class="quiet small">Headroom</span>
        <b>{{ sized(facts.headroom, team) }}</b>
        <span class="quiet small">next {{ count(facts.ahead, 'iteration') }}</span>
      </div>
      <div v-if="pace.length" class="fact">
        <span class="quiet small">Measured velocity</span>
        <b class="pace">{{ amount(facts.mean) }} ± {{ amount(facts.spread) }}</b>
        <svg
          width="116"
          height="22"
          role="img"
          :aria-label="`With nobody away, the last ${pace.length} iterations that count: ${pace.map(amount).join(', ')}`"
        >
          <rect
            v-for="(p, i) in pace.slice(-9)"
            :key="i"
            :x="i * 13"
            :y="22 - (p / highest) * 22"
            width="10"
            :height="(p / highest) * 22"
            fill="var(--water)"
            opacity="0.45"
          />
        </svg>
      </div>
      <RouterLink
        class="link small"
        :to="
          chartThis({
            of: 'items',
            team: team.key,
            split: ['iteration', 'state'],
            measure: 'size',
            form: 'stacked',
          })
        "
        >Chart this <span class="visually-hidden">: {{ team.name }}</span></RouterLink
      >
    </template>
  </div>
</template>

<style scoped>
.head {
  position: absolute;
  left: 0;
  width: 158px;
  height: 100%;
  padding: 3px 8px 3px 14px;
  background: var(--paper);
  border-right: 1px solid var(--rule);
  z-index: 6;
  overflow: hidden;
}

.head.open {
  background: var(--panel);
  border-left: 3px solid var(--water);
  padding-left: 11px;
}

.name {
  display: flex;
  flex-direction: column;
  width: 100%;
  padding: 2px 0;
  border: 0;
  background: none;
  text-align: left;
  cursor: pointer;
}

.title {
  font: 650 14px/1.2 var(--heading);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.fact {
  display: flex;
  flex-direction: column;
  margin-top: 6px;
}

.fact b {
  font: 700 16px/1.15 var(--heading);
}

.fact .pace {
  font-size: 13px;
  margin-bottom: 3px;
}
</style>
