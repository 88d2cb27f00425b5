<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import { useRoute } from 'vue-router'
import PlanStage from './PlanStage.vue'

/** The plan as lanes, or as the map of its needs. */
const NeedsView = defineAsyncComponent(() => import('./needs/NeedsView.vue'))
const route = useRoute()
const needs = computed(() => route.query.as === 'needs')
</script>

<template>
  <NeedsView v-if="needs" />
  <PlanStage v-else />
</template>
