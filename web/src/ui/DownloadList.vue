<script setup lang="ts">
import { computed } from 'vue'
import { bytes } from './format'
import { useDownloads } from './useDownloads'

/** Files that take a while to be made, wherever they were asked for, with how much of each is here; each can be stopped. */
const downloads = useDownloads()
const shown = computed(() => downloads.list.value.filter((d) => d.slow || d.failure))
</script>

<template>
  <ul v-if="shown.length" class="downloads" data-region aria-label="Files that are being made">
    <li v-for="d in shown" :key="d.id">
      <template v-if="d.failure">
        <p role="alert" class="failure">{{ d.name }}: {{ d.failure }}</p>
        <button class="link" @click="downloads.stop(d.id)">Put it away</button>
      </template>
      <template v-else>
        <span role="status">{{ d.name }} is being made</span>
        <span class="quiet">{{ d.bytes ? `${bytes(d.bytes)} so far` : '…' }}</span>
        <progress :aria-label="d.name" />
        <button class="link" :aria-label="`Stop ${d.name}`" @click="downloads.stop(d.id)">Stop</button>
      </template>
    </li>
  </ul>
</template>

<style scoped>
.downloads {
  position: fixed;
  right: 16px;
  bottom: 16px;
  z-index: 1200; /* dialogs offer files too */
  max-width: min(640px, calc(100vw - 32px));
  margin: 0;
  padding: 6px 12px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--panel);
  box-shadow: var(--shadow);
  list-style: none;
}

li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
  min-height: 28px;
}

li p {
  margin: 0;
}

progress {
  width: 120px;
  height: 6px;
  accent-color: var(--water);
}
</style>
