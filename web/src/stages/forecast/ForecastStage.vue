<script setup lang="ts">
import { computed } from 'vue'
import DateField from '@/ui/DateField.vue'
import { count } from '@/ui/format'
import WorkPick from '@/views/WorkPick.vue'
import { useProgram } from '@/line/program'
import { oddsAsked, questions, useAsked } from './asked'
import DatesView from './DatesView.vue'
import FitsView from './FitsView.vue'
import KeptView from './KeptView.vue'
import PaceView from './PaceView.vue'
import WentView from './WentView.vue'
import WhenView from './WhenView.vue'

/** The forecast: a question in plain words, and its answer. */
const store = useProgram()
const asked = useAsked()
const { question, work, picked, by, odds } = asked
/** All dates at once, and all iterations, are about no work in particular. */
const aboutWork = computed(() => question.value !== 'dates' && question.value !== 'kept')
</script>

<template>
  <main class="forecast" aria-label="Forecast">
    <aside data-region aria-label="Ask">
      <h2>Ask</h2>
      <nav aria-label="Questions">
        <button
          v-for="q in questions"
          :key="q.key"
          class="question"
          :aria-pressed="question === q.key"
          @click="asked.say({ ask: q.key === 'when' ? undefined : q.key })"
        >
          {{ q.title }}
        </button>
      </nav>
      <template v-if="aboutWork">
        <div class="field">
          <span class="label">Of which work</span>
          <template v-if="picked.length">
            <p :title="picked.join(', ')">
              {{ count(picked.length, 'item') }}: {{ picked.slice(0, 4).join(', ')
              }}{{ picked.length > 4 ? ' …' : '' }}
            </p>
            <button class="link" @click="asked.say({ of: undefined })">Ask about other work</button>
          </template>
          <WorkPick
            v-else
            :groups="work.groups.value"
            :model-value="work.of.value"
            @update:model-value="asked.say({ of: $event, by: undefined })"
          />
        </div>
        <div v-if="question !== 'went'" class="field">
          <label for="forecast-by">By</label>
          <DateField id="forecast-by" v-model="by" />
        </div>
      </template>
      <div v-if="question === 'fits' || question === 'pace'" class="field">
        <label for="forecast-odds">At odds of</label>
        <select
          id="forecast-odds"
          class="in"
          :value="odds"
          @change="odds = Number(($event.target as HTMLSelectElement).value)"
        >
          <option v-for="n in oddsAsked" :key="n" :value="n">{{ n }} %</option>
        </select>
      </div>
      <div id="forecast-aside" />
    </aside>
    <div v-if="store.id" class="scroll" data-region>
      <WhenView v-if="question === 'when'" :asked="asked" />
      <FitsView v-else-if="question === 'fits'" :asked="asked" />
      <PaceView v-else-if="question === 'pace'" :asked="asked" />
      <WentView v-else-if="question === 'went'" :asked="asked" />
      <KeptView v-else-if="question === 'kept'" />
      <DatesView v-else :asked="asked" />
    </div>
  </main>
</template>

<style scoped>
.forecast {
  display: flex;
  flex: 1;
  min-height: 0;
}

aside {
  display: flex;
  flex-direction: column;
  gap: 12px;
  flex: 0 0 244px;
  overflow-y: auto;
  padding: 12px 16px;
  border-right: 1px solid var(--rule);
  background: var(--panel);
}

h2,
p {
  margin: 0;
}

h2 {
  font-size: 16px;
}

nav {
  display: grid;
  gap: 6px;
}

.question {
  padding: 7px 10px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--panel);
  color: var(--ink);
  font: inherit;
  text-align: left;
  cursor: pointer;
}

.question[aria-pressed='true'] {
  border-color: var(--ink);
  background: var(--ink);
  color: var(--panel);
}

.scroll {
  flex: 1;
  min-width: 0;
  overflow: auto;
}
</style>
