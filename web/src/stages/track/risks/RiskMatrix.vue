<script setup lang="ts">
import { computed } from 'vue'
import RiskCard from './RiskCard.vue'
import { useRisks, type RiskRow } from './risks'

/** Chance × impact: the most of both at the upper right. */
defineProps<{ held: string }>()
const emit = defineEmits<{ key: [row: RiskRow, event: KeyboardEvent] }>()
const risks = useRisks()
const rated = computed(() => risks.rows.filter((r) => !r.stands.over && !r.stands.unrated))
const unrated = computed(() => risks.rows.filter((r) => !r.stands.over && r.stands.unrated))
const at = (chance: number, impact: number) =>
  rated.value.filter((r) => r.stands.chance === chance && r.stands.impact === impact)
const impacts = computed(() => risks.scales.impact.map((name, i) => ({ name, step: i + 1 })).reverse())
/** How exposed a cell is, 0 to 1: the stronger its ground. */
const exposure = (chance: number, impact: number) =>
  (chance * impact) / (risks.scales.chance.length * risks.scales.impact.length)
</script>

<template>
  <table aria-label="Risks by chance and impact">
    <tbody>
      <tr v-for="row in impacts" :key="row.step">
        <th scope="row">{{ row.name }}</th>
        <td
          v-for="(c, i) in risks.scales.chance"
          :key="c"
          :style="{
            background: `color-mix(in srgb, var(--over) ${Math.round(28 * exposure(i + 1, row.step))}%, var(--paper))`,
          }"
        >
          <ul v-if="at(i + 1, row.step).length">
            <RiskCard
              v-for="r in at(i + 1, row.step)"
              :key="r.risk.key"
              :row="r"
              :held="held === r.risk.key"
              @key="emit('key', r, $event)"
            />
          </ul>
        </td>
      </tr>
    </tbody>
    <tfoot>
      <tr>
        <td class="corner quiet small">impact ↑ chance →</td>
        <th v-for="c in risks.scales.chance" :key="c" scope="col">{{ c }}</th>
      </tr>
    </tfoot>
  </table>
  <section v-if="unrated.length" aria-label="Not rated">
    <h3>Not rated</h3>
    <ul class="loose">
      <RiskCard
        v-for="r in unrated"
        :key="r.risk.key"
        :row="r"
        :held="held === r.risk.key"
        @key="emit('key', r, $event)"
      />
    </ul>
  </section>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: separate;
  border-spacing: 4px;
  table-layout: fixed;
}

th {
  padding: 4px;
  font-weight: 400;
  text-align: center;
}

th[scope='row'],
.corner {
  width: 90px;
  text-align: right;
}

td {
  height: 78px;
  padding: 4px;
  border-radius: 4px;
  vertical-align: top;
}

.corner {
  height: auto;
}

ul {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 0;
  list-style: none;
}

h3 {
  margin: 10px 0 4px;
  font-size: 14px;
}

.loose {
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
}
</style>
