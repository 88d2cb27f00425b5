<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'

const router = useRouter()
/** Items from a list of lines. */
const store = useProgram()
const backlog = useBacklog()
const outline = ref('')
const example =
  '- Fog signals\n  - Horn on Outer Stennholm\n    - Mount the horn (4 d, FW)\n    - Sound it from the console (5, KC, #fog)'

async function add(): Promise<void> {
  const done = await backlog.edit({ do: 'add-outline', text: outline.value })
  if (done) await router.push({ name: 'backlog', params: { id: store.id }, query: { item: done.keys[0] } })
}
</script>

<template>
  <section>
    <h2>From an outline</h2>
    <p>
      A list, a line each. What is indented belongs to the line above; in brackets stand a size, a team, a
      kind, a release, and tags.
    </p>
    <textarea
      v-model="outline"
      class="in"
      rows="9"
      aria-label="Outline"
      :placeholder="example"
      spellcheck="false"
      @keydown.ctrl.enter.prevent="add"
    />
    <div class="buttons">
      <Button label="Add these items" :disabled="!outline.trim() || !store.connected" @click="add" />
    </div>
  </section>
</template>

<style scoped>
h2 {
  font-size: 17px;
}
</style>
