<script setup lang="ts">
import { computed, ref } from 'vue'
import { useGuide } from '../guide/guide'
import GuideStep from '../guide/GuideStep.vue'
import { manages } from '@/line/may'
import { useProgram } from '@/line/program'
import TemplateDialog from './TemplateDialog.vue'

/** The program's whole way of working on a page: what it agreed on, and each step. */
const guide = useGuide()
const store = useProgram()
const told = computed(() => guide.found.answer)
const may = computed(() => store.may({ op: 'set', kind: 'program', field: 'guidance' }) && !store.past)
const set = (value: boolean | null) =>
  void store.apply(value === null ? 'Switch guidance on' : 'Switch guidance off', [
    { op: 'set', kind: 'program', field: 'guidance', value },
  ])
const mayKeep = computed(() => manages(store.mine))
const keeping = ref(false)
/** The name of the template that was just kept. */
const kept = ref('')
const print = () => window.print()
</script>

<template>
  <div class="body">
    <div class="scroll" data-region>
      <article class="sheet">
        <header>
          <h1>How {{ store.program.name }} works</h1>
          <span class="gap" />
          <label v-if="may" class="check small"
            ><input
              type="checkbox"
              :checked="guide.on"
              @change="set(($event.target as HTMLInputElement).checked ? null : false)"
            />
            guidance beside each stage</label
          >
          <button v-if="mayKeep" class="plain-button" @click="keeping = true">Keep as a template…</button>
          <button class="plain-button" @click="print">Print…</button>
        </header>
        <p v-if="kept" role="status" class="quiet">
          Kept as “{{ kept }}”: <RouterLink class="link" to="/">new programs can start from it</RouterLink>.
        </p>
        <p v-if="guide.found.failure" role="alert" class="failure">{{ guide.found.failure }}</p>
        <p v-else-if="!told" role="status" class="quiet">Looking…</p>
        <template v-else>
          <section aria-label="What was agreed">
            <h2>What was agreed</h2>
            <dl>
              <template v-for="r in told.rules" :key="r.title">
                <dt>{{ r.title }}</dt>
                <dd>
                  <p v-for="s in r.says" :key="s">{{ s }}</p>
                </dd>
              </template>
            </dl>
          </section>
          <section v-for="s in told.steps" :key="s.stage" :aria-label="s.title" class="step">
            <h2>{{ s.title }}</h2>
            <GuideStep :step="s" />
          </section>
        </template>
      </article>
    </div>
    <TemplateDialog v-if="keeping" @close="keeping = false" @kept="kept = $event" />
  </div>
</template>

<style scoped>
.body {
  display: flex;
  flex: 1;
  min-height: 0;
}

.scroll {
  flex: 1;
  padding: 16px;
  overflow: auto;
}

.sheet {
  max-width: 820px;
  margin: 0 auto;
  padding: 20px 28px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--panel);
}

header {
  display: flex;
  gap: 12px;
  align-items: center;
}

h1 {
  margin: 0;
  font: 600 24px/1.2 var(--heading);
}

.gap {
  flex: 1;
}

h2 {
  margin: 18px 0 4px;
  font: 600 18px/1.3 var(--heading);
}

dl {
  display: grid;
  grid-template-columns: 190px 1fr;
  gap: 6px 16px;
  margin: 0;
}

dt {
  color: var(--quiet);
}

dd,
dd p {
  margin: 0;
}

@media print {
  .sheet {
    max-width: none;
    padding: 0;
    border: 0;
  }

  .step {
    break-inside: avoid;
  }
}
</style>
