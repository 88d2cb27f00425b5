<script setup lang="ts">
import { ref, watch } from 'vue'
import type { OwnGuide } from '@/api/types'
import { useProgram } from '@/line/program'
import { useDraft } from '@/line/useDraft'
import DraftLine from '@/ui/DraftLine.vue'

/** What the program says of a step in its own words: for all, or for a role. */
const props = defineProps<{ stage: OwnGuide['stage'] }>()
const emit = defineEmits<{ close: [] }>()
const store = useProgram()
const roles = ['', 'program manager', 'team lead', 'member', 'viewer'] as const
const role = ref<(typeof roles)[number]>('')
const mine = (g: OwnGuide) => g.stage === props.stage && (g.role ?? '') === role.value
const text = ref('')
const said = () => store.program.guides?.find(mine)?.text ?? ''
watch(role, () => (text.value = said()), { immediate: true })
const draft = useDraft({
  name: () => `guidance of ${props.stage} for ${role.value || 'all'}`,
  read: () => text.value,
  start: said,
  write: (typed) => (text.value = typed),
})

async function keep(): Promise<void> {
  const others = (store.program.guides ?? []).filter((g) => !mine(g))
  const now = text.value.trim()
  const value = now ? [...others, { stage: props.stage, role: role.value || undefined, text: now }] : others
  const done = await store.apply('Guidance in own words', [
    { op: 'set', kind: 'program', field: 'guides', value: value.length ? value : null },
  ])
  if (!done) return
  draft.saved()
  emit('close')
}
</script>

<template>
  <form class="form" @submit.prevent="keep">
    <DraftLine :draft="draft" />
    <label class="field"
      ><span class="label">For whom</span>
      <select v-model="role" class="chip" autofocus>
        <option v-for="r in roles" :key="r" :value="r">{{ r ? `every ${r}` : 'all' }}</option>
      </select>
    </label>
    <label class="field"
      ><span class="label">How you do it, as Markdown; empty: nothing is added</span>
      <textarea v-model="text" class="in" rows="10" maxlength="10000" />
    </label>
    <div class="buttons">
      <button type="button" class="plain-button" @click="emit('close')">Leave it</button>
      <button class="plain-button main" :disabled="!store.connected">Keep it</button>
    </div>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: 8px;
}

textarea {
  width: 100%;
  height: auto;
}
</style>
