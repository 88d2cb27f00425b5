<script setup lang="ts">
import { computed } from 'vue'
import type { Effects } from '@/api/types'
import { useProgram } from '@/line/program'
import { effectGroups } from '@/line/effects'

const props = defineProps<{ effects: Effects }>()
const store = useProgram()
const groups = computed(() => effectGroups(props.effects, store.program, store.todayDay))
const shown = 12
</script>

<template>
  <p v-if="!groups.length" class="quiet">Nothing that is planned changes.</p>
  <section v-for="g in groups" :key="g.title" class="group">
    <h3>{{ g.title }}</h3>
    <ul>
      <li v-for="(e, i) in g.effects.slice(0, shown)" :key="i" :class="{ flag: e.bad }">
        <template v-if="e.bad"
          ><i class="pi pi-exclamation-triangle" aria-hidden="true" /><span class="visually-hidden"
            >Worse:
          </span></template
        >{{ e.text }}
      </li>
      <li v-if="g.effects.length > shown" class="quiet">and {{ g.effects.length - shown }} more</li>
    </ul>
  </section>
</template>

<style scoped>
.group h3 {
  margin: 10px 0 3px;
  font-size: 14px;
}

ul {
  margin: 0;
  padding-left: 16px;
}

.flag {
  font-weight: 500;
}

.pi {
  margin-right: 5px;
  font-size: 11px;
}
</style>
