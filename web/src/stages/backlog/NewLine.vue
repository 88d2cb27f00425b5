<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { IntentOf } from '@/api/intents'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'

/** The line in which new items are written, below the one that the cursor is on. */
const store = useProgram()
const backlog = useBacklog()
const text = ref('')
const busy = ref(false)
const input = ref<HTMLInputElement>()
onMounted(() => input.value?.focus())

/** New items go where the one above them is. */
function under(): IntentOf<'add-outline'>['under'] {
  const above = store.items.get(backlog.adding ?? '')
  if (!above) return { parent: '', team: store.mine.role === 'team lead' ? store.mine.teams[0] : '' }
  const group = above.kind === 'feature' || above.kind === 'initiative'
  return {
    after: above.key,
    parent: group ? above.key : above.parent,
    team: group ? (store.mine.role === 'team lead' ? store.mine.teams[0] : '') : above.team,
    release: group ? '' : above.release,
  }
}

async function add(lines: string): Promise<void> {
  if (!lines.trim()) {
    backlog.adding = undefined
    return
  }
  busy.value = true
  const done = await backlog.edit({ do: 'add-outline', text: lines, under: under() })
  busy.value = false
  if (!done) return
  text.value = ''
  await backlog.refresh()
  const last = done.keys[done.keys.length - 1]
  // Items that the filter does not show cannot be gone on from.
  backlog.go(backlog.places.has(last) ? last : backlog.cursor.key)
  backlog.adding = backlog.places.has(last) ? last : undefined
}

function paste(event: ClipboardEvent): void {
  const lines = event.clipboardData?.getData('text/plain') ?? ''
  if (!lines.trim().includes('\n')) return
  event.preventDefault()
  void add(lines)
}

function leave(): void {
  if (!busy.value && !text.value.trim()) backlog.adding = undefined
}
</script>

<template>
  <input
    ref="input"
    v-model="text"
    class="in"
    aria-label="Title of the new item"
    placeholder="Title of the new item, for example: Fog bell (3 pt, defect). Paste lines to add many."
    maxlength="500"
    :disabled="busy"
    @keydown.stop
    @keydown.enter.prevent="add(text)"
    @keydown.escape.prevent="backlog.adding = undefined"
    @paste.stop="paste"
    @copy.stop
    @blur="leave"
  />
</template>

<style scoped>
.in {
  width: 640px;
  height: 24px;
}
</style>
