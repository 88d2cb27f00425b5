<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Cadence } from '@/api/types'
import { shortDate } from '@/ui/dates'
import { count } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useWanted } from '@/stages/setup/useWanted'
import CadenceForm from './CadenceForm.vue'

const store = useProgram()
const followers = (key: string) =>
  (store.program.teams ?? []).filter((t) => t.cadence === key).map((t) => t.key)
const length = (c: Cadence) =>
  c.lengthDays % 7 ? count(c.lengthDays, 'day') : count(c.lengthDays / 7, 'week')
const may = computed(() => store.may({ op: 'add', kind: 'cadence' }))
const editing = ref<Cadence>()
const open = ref(false)

function edit(cadence?: Cadence): void {
  editing.value = cadence
  open.value = true
}
useWanted({ 'new-cadence': () => edit() })
</script>

<template>
  <section aria-label="Cadences">
    <header class="titled">
      <h2>Cadences</h2>
      <Button
        v-if="may"
        data-new
        title="New cadence (N)"
        size="small"
        text
        icon="pi pi-plus"
        label="New cadence"
        @click="edit()"
      />
    </header>
    <p v-if="!store.program.cadences?.length" class="quiet">
      A cadence makes its teams’ iterations: so many ahead, each as long as it says. Start with one.
    </p>
    <ul class="plain">
      <li v-for="c in store.program.cadences" :key="c.key">
        <button class="link" @click="edit(c)">
          <b>{{ c.name || c.key }}</b>
        </button>
        <span class="quiet">
          {{ length(c) }} from {{ shortDate(c.start, store.todayDay) }},
          {{ c.ahead ? `${c.ahead} kept ahead` : 'none made ahead'
          }}{{ c.carryOver ? ', unfinished items carry over' : '' }}
        </span>
        <span class="quiet small">{{ followers(c.key).join(', ') || 'no team follows it' }}</span>
      </li>
    </ul>
    <CadenceForm v-model:visible="open" :cadence="editing" />
  </section>
</template>

<style scoped>
li {
  display: grid;
  padding: 5px 0;
  border-bottom: 1px solid var(--rule);
}
</style>
