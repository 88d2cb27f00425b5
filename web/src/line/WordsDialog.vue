<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref } from 'vue'
import { useProgram } from '@/line/program'
import { linesOf } from '@/ui/format'

/** Words of the program to choose from: a line for each. */
const props = defineProps<{
  /** The setting that holds them. */
  field: 'activities' | 'priorities' | 'roles'
  title: string
  /** What a line is, in words. */
  asks: string
  example: string
  /** What becomes of what had a word that goes. */
  kept: string
}>()
const emit = defineEmits<{ close: [] }>()
const store = useProgram()
const text = ref((store.program.settings[props.field] ?? []).join('\n'))
const lines = computed(() => linesOf(text.value))
const twice = computed(() => {
  const folded = lines.value.map((l) => l.toLowerCase())
  return lines.value.find((_, i) => folded.indexOf(folded[i]) < i)
})

async function keep(): Promise<void> {
  const value = lines.value.length ? lines.value : null
  if (await store.apply(props.title, [{ op: 'set', kind: 'program', field: props.field, value }]))
    emit('close')
}
</script>

<template>
  <Dialog visible modal :header="title" :style="{ width: '440px' }" @update:visible="emit('close')">
    <form class="form" @submit.prevent="keep">
      <label
        >{{ asks }}, a line for each
        <textarea
          v-model="text"
          class="in"
          :rows="Math.max(8, Math.min(16, lines.length + 1))"
          :placeholder="example"
          autofocus
        />
      </label>
      <p class="quiet small">{{ kept }}</p>
      <p v-if="twice" role="alert" class="failure">{{ twice }} is there twice.</p>
      <div class="buttons">
        <Button type="button" outlined label="Cancel" @click="emit('close')" />
        <Button type="submit" label="Keep" :disabled="!!twice || !store.connected" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
p {
  margin: 0;
}

textarea {
  width: 100%;
  height: auto;
  padding: 6px 8px;
}
</style>
