<script setup lang="ts">
import { computed, useId } from 'vue'
import { rolesKnown } from './roles'
import { useProgram } from './program'

/** Roles, set off by commas; those that the program knows are offered for the one that is being written. */
defineOptions({ inheritAttrs: false })
const text = defineModel<string>({ required: true })
const store = useProgram()
const list = useId()
const known = computed(() => rolesKnown(store.program))
const offered = computed(() => {
  const written = text.value.split(',')
  const before = written.slice(0, -1).map((r) => r.trim())
  return known.value.filter((role) => !before.includes(role)).map((role) => [...before, role].join(', '))
})
</script>

<template>
  <input v-bind="$attrs" v-model="text" class="in" :list="list" autocomplete="off" spellcheck="false" />
  <datalist :id="list">
    <option v-for="roles in offered" :key="roles" :value="roles" />
  </datalist>
</template>
