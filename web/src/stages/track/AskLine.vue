<script setup lang="ts">
import { useTrack, type Asked } from './track'

/** What is asked about an item: what blocks it, or why it is sent back. */
const props = defineProps<{ asked: Asked }>()
const track = useTrack()

/** The item takes the focus again, whatever was answered. */
async function answered(make: boolean): Promise<void> {
  const key = props.asked.item
  if (make) await track.reply()
  else track.asked = undefined
  await track.focus(key)
}
</script>

<template>
  <form class="ask" @submit.prevent="answered(true)">
    <label :for="`ask-${asked.item}`" class="small">{{
      asked.what === 'blocked' ? 'Blocked by (empty: it is not)' : 'Sent back, why'
    }}</label>
    <input
      :id="`ask-${asked.item}`"
      v-model="track.asked!.text"
      v-focus
      class="in"
      maxlength="300"
      @keydown.esc.stop="answered(false)"
    />
    <button type="submit" class="go">{{ asked.what === 'blocked' ? 'Keep' : 'Send back' }}</button>
  </form>
</template>

<style scoped>
.ask {
  display: flex;
  gap: 8px;
  align-items: center;
  z-index: 1;
  padding: 1px 0;
  background: var(--panel);
}

label {
  white-space: nowrap;
}

.go {
  height: 28px;
  padding: 0 12px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--panel);
  color: var(--ink);
  font: inherit;
  white-space: nowrap;
  cursor: pointer;
}
</style>
