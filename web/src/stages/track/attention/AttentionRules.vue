<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref } from 'vue'
import { useProgram } from '@/line/program'
import { callTitles } from '@/line/calls'

/** The program's own rules: what counts, and how far ahead. */
const emit = defineEmits<{ close: [] }>()
const store = useProgram()
const rule = store.program.settings.attention
const off = ref(new Set<string>(rule?.off))
const ahead = ref<number | ''>(rule?.aheadDays ?? 7)
const says: Record<keyof typeof callTitles, string> = {
  overdue: 'an item that was due',
  blocked: 'an item that is blocked',
  broken: 'a need that comes too late',
  ended: 'an iteration that is over and not closed',
  over: 'an iteration over capacity',
  'not-ready': 'an item that begins soon and is not ready',
  agreement: 'a need across teams that is due soon and not agreed',
  unowned: 'an item under way, or about to begin, that is assigned to nobody',
  tests: 'an item whose tests fail, wait for a defect, or are not run',
  build: 'a team with a red build',
  risk: 'a risk that nobody watches, is not rated, or is to be looked at',
  promise: 'a promise that will rather be missed, or whose odds fell by 10 points',
}
const wrong = computed(() =>
  typeof ahead.value === 'number' && ahead.value >= 0 && ahead.value <= 90 ? '' : 'Days ahead are 0 to 90.',
)
function toggle(kind: string): void {
  const now = new Set(off.value)
  if (!now.delete(kind)) now.add(kind)
  off.value = now
}
async function keep(): Promise<void> {
  const value = { off: [...off.value], aheadDays: ahead.value }
  if (await store.apply('What needs somebody', [{ op: 'set', kind: 'program', field: 'attention', value }]))
    emit('close')
}
</script>

<template>
  <Dialog
    visible
    modal
    header="What needs somebody"
    :style="{ width: '520px' }"
    @update:visible="emit('close')"
  >
    <form class="form" @submit.prevent="keep">
      <label v-for="(text, kind) in says" :key="kind" class="check">
        <input type="checkbox" :checked="!off.has(kind)" @change="toggle(kind)" />
        {{ text }}
      </label>
      <label class="check"
        >Soon is
        <input
          v-model.number="ahead"
          class="in number"
          type="number"
          min="0"
          max="90"
          aria-label="Days ahead"
        />
        days ahead, for what two teams agree on twice that.</label
      >
      <p v-if="wrong" role="alert" class="failure">{{ wrong }}</p>
      <div class="buttons">
        <Button type="button" outlined label="Cancel" @click="emit('close')" />
        <Button type="submit" label="Keep" :disabled="!!wrong || !store.connected" />
      </div>
    </form>
  </Dialog>
</template>
