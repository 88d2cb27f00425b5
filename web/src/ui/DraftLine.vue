<script setup lang="ts">
/** Says that what stands in a form was typed before and not saved, with a way to throw it away. */
defineProps<{ draft: { offered: { value: boolean }; discard: () => void } }>()
</script>

<template>
  <p v-if="draft.offered.value" class="draft small" role="status">
    <i class="pi pi-history" aria-hidden="true" />
    <span>You typed this earlier and didn’t save it.</span>
    <button type="button" class="link" @click="draft.discard()">Discard it</button>
  </p>
</template>

<style scoped>
.draft {
  display: flex;
  gap: 8px;
  align-items: center;
  margin: 0 0 8px;
  border-radius: 6px;
  padding: 6px 10px;
  background: var(--basin);
}
</style>
