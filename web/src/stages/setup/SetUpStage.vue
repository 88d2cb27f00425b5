<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { keysRest } from '@/ui/keysRest'
import { useProgram } from '@/line/program'
import NextStep from './NextStep.vue'
import { useSetUp } from './setup'
import './setup.css'
import { setUpTabs } from './tabs'

const store = useProgram()
const setUp = useSetUp()
const route = useRoute()
const router = useRouter()
const id = computed(() => Number(route.params.id))

// The digits go from part to part, N makes what the part is for.
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (keysRest(event) || event.ctrlKey || event.metaKey || event.altKey) return
  const tab = setUpTabs[Number(event.key) - 1]
  if (tab) void router.push({ name: `set-up-${tab.path}`, params: { id: id.value } })
  else if (event.key === 'n') {
    event.preventDefault()
    document.querySelector<HTMLElement>('[data-new]')?.click()
  }
})

watch(
  () => [store.id, store.revision, store.today],
  () => void setUp.refresh(),
  { immediate: true },
)
</script>

<template>
  <main class="set-up">
    <h1 class="visually-hidden">Set up {{ store.program.name }}</h1>
    <nav class="tabs" data-region aria-label="Parts of the set-up">
      <RouterLink
        v-for="(tab, i) in setUpTabs"
        :key="tab.path"
        :title="`${tab.title} (${i + 1})`"
        :to="{ name: `set-up-${tab.path}`, params: { id } }"
      >
        {{ tab.title }}
      </RouterLink>
    </nav>
    <NextStep />
    <div class="part" data-region><RouterView /></div>
  </main>
</template>

<style scoped>
.part {
  display: contents;
}

.set-up {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
</style>
