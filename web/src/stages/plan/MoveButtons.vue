<script setup lang="ts">
import Button from 'primevue/button'
import { usePlan } from './plan'

/** Moves the selection by an iteration, or takes its place away. */
defineProps<{ fixed: boolean; placed: boolean }>()
const plan = usePlan()
</script>

<template>
  <Button
    size="small"
    outlined
    title="One iteration earlier ([)"
    aria-label="Earlier"
    :disabled="fixed"
    icon="pi pi-arrow-left"
    @click="plan.shift(-1)"
  />
  <Button
    size="small"
    outlined
    title="One iteration later (])"
    aria-label="Later"
    :disabled="fixed"
    icon="pi pi-arrow-right"
    @click="plan.shift(1)"
  />
  <Button
    size="small"
    outlined
    label="Unplace"
    title="Unplace (U)"
    :disabled="!placed || fixed"
    @click="plan.unplace()"
  />
</template>
