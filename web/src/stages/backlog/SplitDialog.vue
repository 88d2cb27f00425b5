<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref, watch } from 'vue'
import type { SplitPart } from '@/api/types'
import { sized } from '@/ui/format'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import { useDraft } from '@/line/useDraft'
import DraftLine from '@/ui/DraftLine.vue'

/** Splits an item into parts: sizes shared out, needs kept or handed on. */
const visible = defineModel<boolean>('visible', { required: true })
const store = useProgram()
const backlog = useBacklog()
const key = ref('')
const item = computed(() => store.items.get(key.value))
const team = computed(() => store.teams.get(item.value?.team ?? ''))
type Row = { title: string; size: string; needs: boolean; wanted: boolean }
const parts = ref<Row[]>([])
const chain = ref(false)
const busy = ref(false)

const hasNeeds = computed(() => (store.program.needs ?? []).some((n) => n.item === key.value))
const isNeeded = computed(() => (store.program.needs ?? []).some((n) => n.needs === key.value))

/** Halves a size into whole numbers where it is one: 5 into 3 and 2. */
function halves(size: number | undefined): [string, string] {
  if (size === undefined) return ['', '']
  const first = Number.isInteger(size) ? Math.ceil(size / 2) : size / 2
  return [String(first), String(size - first)]
}
/** Two halves, with nothing said of the second. */
function start(): { parts: Row[]; chain: boolean } {
  const [a, b] = halves(item.value?.size)
  return {
    parts: [
      { title: item.value?.title ?? '', size: a, needs: true, wanted: false },
      { title: '', size: b, needs: false, wanted: true },
    ],
    chain: false,
  }
}
function write(typed: { parts: Row[]; chain: boolean }): void {
  parts.value = typed.parts
  chain.value = typed.chain
}
watch(visible, (open) => {
  if (!open || !backlog.chosen) return
  key.value = backlog.chosen.key
  write(start())
})
const draft = useDraft({
  name: () => (visible.value ? `split of ${key.value}` : undefined),
  read: () => ({ parts: parts.value, chain: chain.value }),
  start,
  write,
})
const amountOf = (text: string) => (text === '' || text === null ? undefined : Number(text))
const sum = computed(() => parts.value.reduce((n, p) => n + (amountOf(p.size) ?? 0), 0))
const ready = computed(() => parts.value.length > 1 && parts.value.every((p) => p.title.trim()))

async function split(): Promise<void> {
  if (!ready.value || busy.value) return
  busy.value = true
  const body: SplitPart[] = parts.value.map((p) => ({
    title: p.title.trim(),
    size: amountOf(p.size),
    needs: p.needs,
    wanted: p.wanted,
  }))
  const done = await backlog.edit({ do: 'split', key: key.value, parts: body, chain: chain.value })
  busy.value = false
  if (!done) return
  draft.saved()
  visible.value = false
}
</script>

<template>
  <Dialog v-model:visible="visible" modal :header="`Split ${key}`" :style="{ width: '700px' }">
    <form class="form" @submit.prevent="split">
      <DraftLine :draft="draft" />
      <p class="quiet">
        The first part stays {{ key }} and keeps its history, comments, tasks and checks. The others are
        copies of it, placed below it, with nothing done yet.
      </p>
      <table class="table">
        <thead>
          <tr>
            <th>Title</th>
            <th>Size</th>
            <th v-if="hasNeeds">Needs what it needs</th>
            <th v-if="isNeeded">Is needed by the same</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr v-for="(p, i) in parts" :key="i">
            <td>
              <input
                v-model="p.title"
                class="in"
                :aria-label="`Title of part ${i + 1}`"
                :autofocus="i === 1"
                maxlength="500"
              />
            </td>
            <td>
              <input
                v-model="p.size"
                class="in number"
                type="number"
                min="0"
                step="any"
                :aria-label="`Size of part ${i + 1}`"
              />
            </td>
            <td v-if="hasNeeds">
              <input v-model="p.needs" type="checkbox" :aria-label="`Part ${i + 1} needs what it needs`" />
            </td>
            <td v-if="isNeeded">
              <input v-model="p.wanted" type="checkbox" :aria-label="`Part ${i + 1} is needed by the same`" />
            </td>
            <td>
              <button
                v-if="parts.length > 2 && i > 0"
                type="button"
                class="round"
                :aria-label="`Drop part ${i + 1}`"
                @click="parts.splice(i, 1)"
              >
                <i class="pi pi-times" aria-hidden="true" />
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <div class="row">
        <button
          type="button"
          class="chip"
          @click="parts.push({ title: '', size: '', needs: false, wanted: false })"
        >
          One more part
        </button>
        <label class="check"
          ><input v-model="chain" type="checkbox" /><span>Each needs the one before it</span></label
        >
        <span class="quiet"
          >Together {{ sized(sum, team) }}; {{ key }} has {{ sized(item?.size, team) }}.</span
        >
      </div>
      <div class="buttons">
        <Button text type="button" label="Cancel" @click="visible = false" />
        <Button type="submit" label="Split" :disabled="!ready || busy" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
p {
  margin: 0;
}

.row {
  align-items: center;
}
</style>
