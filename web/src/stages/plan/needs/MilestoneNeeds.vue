<script setup lang="ts">
import { computed } from 'vue'
import type { MilestoneNeed } from '@/api/types'
import { shortDate } from '@/ui/dates'
import { count, spareText } from '@/ui/format'
import { useProgram } from '@/line/program'

/** What milestones still need, and the cycles of needs that the program holds, with a way to each item. */
const props = defineProps<{ needs: MilestoneNeed[]; cycles: string[][] }>()
const emit = defineEmits<{ show: [item: string] }>()
const store = useProgram()
const day = (date?: string) => shortDate(date, store.todayDay)
const title = (key: string) => store.items.get(key)?.title ?? ''
const milestones = computed(() =>
  (store.program.milestones ?? [])
    .map((m) => ({ m, needs: props.needs.filter((n) => n.milestone === m.key) }))
    .filter((x) => x.needs.length),
)
</script>

<template>
  <section v-if="cycles.length" class="cycles" aria-label="Cycles">
    <h3>{{ count(cycles.length, 'cycle') }}: these wait for one another, and none can be placed</h3>
    <p v-for="cycle in cycles" :key="cycle.join(' ')">
      <template v-for="key in cycle" :key="key">
        <button class="link" :title="title(key)" @click="emit('show', key)">{{ key }}</button>
        needs
      </template>
      {{ cycle[0] }}
    </p>
  </section>
  <section v-if="milestones.length" aria-label="Milestones">
    <h3>What milestones need</h3>
    <template v-for="{ m, needs: wanted } in milestones" :key="m.key">
      <p>
        <b>{{ m.name }}</b>, {{ day(m.date) }}
      </p>
      <ul>
        <li v-for="n in wanted" :key="n.item">
          <span>
            <button class="link" @click="emit('show', n.item)">{{ n.item }}</button> {{ title(n.item) }}
            <span class="quiet small">
              {{ n.until ? `done by ${day(n.until)}` : 'has no place'
              }}{{ n.leaves > 1 ? `, ${count(n.leaves, 'item')}` : '' }}</span
            >
            <span v-if="n.late.length && n.leaves > 1" class="small late">
              too late: {{ n.late.join(', ') }}</span
            >
          </span>
          <b :class="n.status">{{ spareText(n.spare, n.status) }}</b>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
section {
  margin-top: 18px;
}

h3 {
  margin: 0 0 4px;
  font-size: 15px;
}

p {
  margin: 4px 0;
}

ul {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 0 0 0 12px;
  list-style: none;
}

li {
  display: flex;
  gap: 12px;
  justify-content: space-between;
}

li b {
  flex: none;
  font-weight: 600;
}

.link {
  font-weight: 650;
}

.tight {
  color: var(--caution);
}

.broken,
.late {
  color: var(--needs);
}

.cycles h3 {
  color: var(--needs);
}
</style>
