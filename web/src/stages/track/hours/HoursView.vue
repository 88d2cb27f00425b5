<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useProgram } from '@/line/program'
import WordsDialog from '@/line/WordsDialog.vue'
import HoursReport from './HoursReport.vue'
import HoursWeek from './HoursWeek.vue'

/** Hours: a person's week to enter them in, and what was planned against what was spent. */
const store = useProgram()
const route = useRoute()
const router = useRouter()
const report = computed(() => route.query.hours === 'report')
const show = (hours?: 'report') => void router.replace({ query: { ...route.query, hours } })
const naming = ref(false)
</script>

<template>
  <div class="view">
    <header>
      <button class="chip" :aria-pressed="!report" @click="show()">A week</button>
      <button class="chip" :aria-pressed="report" @click="show('report')">Planned and spent</button>
      <span class="gap" />
      <button
        v-if="store.may({ op: 'set', kind: 'program', field: 'activities' })"
        class="chip"
        @click="naming = true"
      >
        Activities…
      </button>
    </header>
    <HoursReport v-if="report" />
    <HoursWeek v-else />
    <WordsDialog
      v-if="naming"
      field="activities"
      title="Activities"
      asks="What time is spent on"
      :example="'building\ntesting\nmeetings'"
      kept="Hours and tasks keep what they were given when a line goes."
      @close="naming = false"
    />
  </div>
</template>

<style scoped>
.view {
  padding: 10px 16px 24px;
}

header {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-bottom: 10px;
}

.gap {
  flex: 1;
}

@media print {
  header {
    display: none;
  }
}
</style>
