<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { onMounted, ref } from 'vue'
import type { IntentOf } from '@/api/intents'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import { useDraft } from '@/line/useDraft'
import OutlineForm from './OutlineForm.vue'

/**
 * The line in which new items are written, below the one that the cursor is on. One writes on
 * while what was written is being added: nothing that is typed gets lost.
 */
const store = useProgram()
const backlog = useBacklog()
const text = ref('')
/** Written, and not added yet, in order. */
const waiting: string[] = []
/** Lines that were pasted, to be looked at before they are added. */
const pasted = ref('')
/** Lines that were pasted and left: they can be looked at again. */
const left = ref('')
/** What could not be added. */
const refused = ref<string[]>([])
const input = ref<HTMLInputElement>()
onMounted(() => input.value?.focus())
useDraft({
  name: () => 'new line',
  read: () => text.value,
  start: () => '',
  write: (typed) => (text.value = typed),
})

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

let adding = false
/** Adds what waits, one after the other, each below the one before. */
async function addWaiting(): Promise<void> {
  if (adding) return
  adding = true
  for (let lines = waiting[0]; lines !== undefined; lines = waiting[0]) {
    const done = await backlog.edit({ do: 'add-outline', text: lines, under: under() })
    if (!done) {
      // It is back where it was written, or beside what is being written by now.
      const back = waiting.splice(0)
      if (!text.value && !back[0].includes('\n')) text.value = back.shift()!
      refused.value = [...refused.value, ...back]
      break
    }
    waiting.shift()
    await follow(done.keys)
  }
  adding = false
}

/** The next line is written below what was added; says so where the list does not show it. */
async function follow(keys: string[]): Promise<void> {
  const last = keys[keys.length - 1]
  if (backlog.adding !== undefined) {
    if (backlog.places.has(backlog.adding)) backlog.addingAt = backlog.adding
    backlog.adding = last
  }
  await backlog.refresh()
  const unseen = keys.filter((key) => !backlog.places.has(key))
  if (unseen.length)
    store.notice = {
      text: `${unseen.join(', ')} ${unseen.length === 1 ? 'was' : 'were'} added; what is shown here leaves ${unseen.length === 1 ? 'it' : 'them'} out.`,
      severity: 'info',
    }
  else backlog.go(last)
}

function add(lines: string): void {
  if (!lines.trim()) {
    if (!waiting.length) backlog.adding = undefined
    return
  }
  waiting.push(lines)
  text.value = ''
  void addWaiting()
}

function again(): void {
  waiting.push(...refused.value.splice(0))
  input.value?.focus()
  void addWaiting()
}

function paste(event: ClipboardEvent): void {
  const lines = event.clipboardData?.getData('text/plain') ?? ''
  if (!lines.trim().includes('\n')) return
  event.preventDefault()
  pasted.value = lines
}

/** Goes on below what came of the pasted lines. */
async function addedMany(keys: string[]): Promise<void> {
  pasted.value = left.value = ''
  await follow(keys)
  input.value?.focus()
}

function leavePasted(): void {
  left.value = pasted.value
  pasted.value = ''
}

function leave(): void {
  if (!pasted.value && !left.value && !waiting.length && !refused.value.length && !text.value.trim())
    backlog.adding = undefined
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
    @keydown.stop
    @keydown.enter.prevent="add(text)"
    @keydown.escape.prevent="backlog.adding = undefined"
    @paste.stop="paste"
    @copy.stop
    @blur="leave"
  />
  <span v-if="refused.length" class="refused" role="alert">
    Not added: {{ refused.join(', ') }}
    <button class="chip" @click="again">Try again</button>
  </span>
  <span v-if="left" class="refused" role="status">
    The lines you pasted weren’t added.
    <button class="chip" @click="pasted = left">Show them</button>
  </span>
  <Dialog
    :visible="!!pasted"
    modal
    header="Items from what was pasted"
    :style="{ width: '640px' }"
    @update:visible="leavePasted"
  >
    <OutlineForm :start="pasted" :under="under()" @added="addedMany" />
  </Dialog>
</template>

<style scoped>
.in {
  width: 640px;
  height: 24px;
}

.refused {
  margin-left: 8px;
  color: var(--over);
}
</style>
