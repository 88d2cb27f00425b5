<script setup lang="ts">
import type { WorkGroup } from './work'

/** Which part of the work is asked about. */
defineProps<{ groups: WorkGroup[] }>()
const of = defineModel<string>({ required: true })
</script>

<template>
  <select
    class="in"
    aria-label="Of which work"
    :value="of"
    @change="of = ($event.target as HTMLSelectElement).value"
  >
    <template v-for="g in groups" :key="g.title">
      <optgroup v-if="g.title && g.of.length" :label="g.title">
        <option v-for="[value, title] in g.of" :key="value" :value="value">{{ title }}</option>
      </optgroup>
      <template v-else>
        <option v-for="[value, title] in g.of" :key="value" :value="value">{{ title }}</option>
      </template>
    </template>
  </select>
</template>
