<script setup lang="ts" generic="T">
import Popover from 'primevue/popover'
import { useTemplateRef } from 'vue'

/** A button that offers what can be added, each with what it is. */
defineProps<{ text: string; label: string; kinds: { of: T; title: string; says?: string }[] }>()
const emit = defineEmits<{ add: [of: T] }>()
const offered = useTemplateRef<InstanceType<typeof Popover>>('offered')
function add(of: T): void {
  offered.value?.hide()
  emit('add', of)
}
</script>

<template>
  <button class="chip" aria-haspopup="menu" @click="offered?.toggle($event)">
    {{ text }} <i class="pi pi-chevron-down" aria-hidden="true" />
  </button>
  <Popover ref="offered">
    <ul :aria-label="label">
      <li v-for="k in kinds" :key="k.title">
        <button class="link" @click="add(k.of)">{{ k.title }}</button>
        <span v-if="k.says" class="quiet small"> {{ k.says }}</span>
      </li>
    </ul>
  </Popover>
</template>

<style scoped>
ul {
  display: grid;
  gap: 5px;
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
