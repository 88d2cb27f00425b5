<script setup lang="ts">
import { computed } from 'vue'
import type { GuidedStep } from '@/api/types'
import { markdown } from '@/ui/markdown'
import { useGuide } from './guide'

/** One step: what of it is open, what the program says of it itself, and how it is done well. */
const props = defineProps<{ step: GuidedStep }>()
const guide = useGuide()
const parts = computed(() => [
  { title: 'What goes in', list: props.step.in },
  { title: 'What comes out', list: props.step.out },
  { title: 'What goes wrong', list: props.step.wrong },
])
const done = computed(() => props.step.checks.filter((c) => !c.open).length)
const whom = (role?: string) => (role ? `For every ${role}` : 'For all')
</script>

<template>
  <p class="aim">{{ step.aim }}</p>
  <h3>{{ done }} of {{ step.checks.length }} done</h3>
  <ul class="checks" aria-label="Checklist">
    <li v-for="c in step.checks" :key="c.text">
      <i :class="['pi', c.open ? 'pi-circle' : 'pi-check-circle']" aria-hidden="true" />
      <button class="link" :class="{ open: c.open }" @click="guide.lead(c)">
        {{ c.text }}<span class="visually-hidden">, {{ c.open ? 'open' : 'done' }}</span>
      </button>
    </li>
  </ul>
  <template v-for="(g, i) in step.own" :key="i">
    <h3>{{ whom(g.role) }}</h3>
    <!-- eslint-disable-next-line vue/no-v-html -- cleaned by markdown() -->
    <div class="own" v-html="markdown(g.text)" />
  </template>
  <h3>Who takes part</h3>
  <p>{{ step.who }}</p>
  <template v-for="p in parts" :key="p.title">
    <h3>{{ p.title }}</h3>
    <ul>
      <li v-for="line in p.list" :key="line">{{ line }}</li>
    </ul>
  </template>
  <h3>How long it takes</h3>
  <p>{{ step.takes }}</p>
</template>

<style scoped>
.aim {
  font-weight: 600;
}

h3 {
  margin: 6px 0 0;
  color: var(--quiet);
  font-size: 13px;
}

p {
  margin: 0;
}

ul {
  margin: 0;
  padding-left: 18px;
}

.checks {
  padding: 0;
  list-style: none;
}

.checks li {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding: 2px 0;
}

.checks .pi {
  color: var(--good);
  font-size: 13px;
}

.checks .pi-circle {
  color: var(--caution);
}

.checks button {
  color: var(--quiet);
  text-align: left;
}

.checks button.open {
  color: var(--ink);
}

.own :deep(> :first-child) {
  margin-top: 0;
}

.own :deep(> :last-child) {
  margin-bottom: 0;
}
</style>
