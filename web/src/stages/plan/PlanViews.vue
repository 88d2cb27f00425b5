<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import { useRoute } from 'vue-router'
import PlanStage from './PlanStage.vue'

/** The plan as lanes, as the map of its needs, or beside other lines. */
const NeedsView = defineAsyncComponent(() => import('./needs/NeedsView.vue'))
const route = useRoute()
const CompareView = defineAsyncComponent(() => import('./compare/CompareView.vue'))
const SinceView = defineAsyncComponent(() => import('./compare/SinceView.vue'))
const needs = computed(() => route.query.as === 'needs')
</script>

<template>
  <NeedsView v-if="needs" />
  <SinceView v-else-if="route.query.as === 'since'" />
  <CompareView v-else-if="route.query.as === 'compare'" />
  <PlanStage v-else />
</template>
