<script setup lang="ts">
/** What stands beside a page: the settings of a card, or what a part of a chart counts. */
defineProps<{ label: string; title: string; closes: string; wide?: boolean }>()
const emit = defineEmits<{ close: [] }>()
</script>

<template>
  <aside class="panel" :class="{ wide }" :aria-label="label" data-region>
    <header>
      <h2>{{ title }}</h2>
      <button class="round" :aria-label="closes" @click="emit('close')">
        <i class="pi pi-times" aria-hidden="true" />
      </button>
    </header>
    <slot />
  </aside>
</template>

<style scoped>
.panel {
  display: flex;
  flex: none;
  flex-direction: column;
  gap: 8px;
  width: 330px;
  padding: 10px 16px;
  border-left: 1px solid var(--rule);
  background: var(--panel);
  overflow: auto;
}

.wide {
  width: 460px;
}

header {
  display: flex;
  align-items: center;
  justify-content: space-between;
}

h2 {
  margin: 0;
  font-size: 17px;
}

.panel :slotted(p) {
  margin: 0;
}

@media print {
  .panel {
    display: none;
  }
}
</style>
