<script setup lang="ts">
/** Says what a dialog that stays open has just added, and how to go on. */
defineProps<{ name: string }>()
</script>

<template>
  <p v-if="name" class="added" role="status">
    <i class="pi pi-check" aria-hidden="true" /> {{ name }} was added. Add another, or press Esc to go on.
  </p>
</template>

<style scoped>
.added {
  margin: 0;
  border-radius: 6px;
  padding: 6px 10px;
  background: var(--basin);
}
</style>
