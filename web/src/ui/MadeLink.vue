<script setup lang="ts">
import { ref, watch } from 'vue'

/** A link that was just made, to be copied: it is shown this once. */
const props = defineProps<{ value: string }>()
const copied = ref(false)
watch(
  () => props.value,
  () => (copied.value = false),
)
async function copy(): Promise<void> {
  await navigator.clipboard.writeText(props.value).then(
    () => (copied.value = true),
    () => undefined, // it can be marked and copied by hand
  )
}
</script>

<template>
  <label class="field"
    ><span class="label">The new link: it is shown this once</span>
    <input class="in" readonly :value="value" @focus="($event.target as HTMLInputElement).select()" />
  </label>
  <div class="copy">
    <button class="plain-button" @click="copy">Copy it</button>
    <span class="quiet small" aria-live="polite">{{ copied ? 'Copied.' : '' }}</span>
  </div>
</template>

<style scoped>
.copy {
  display: flex;
  gap: 10px;
  align-items: center;
  margin: 6px 0 10px;
}
</style>
