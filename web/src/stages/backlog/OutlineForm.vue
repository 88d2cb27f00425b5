<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { answer, client } from '@/api/client'
import type { IntentOf } from '@/api/intents'
import { count, sized } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'
import { useDraft } from '@/line/useDraft'
import DraftLine from '@/ui/DraftLine.vue'
import { useBacklog } from './backlog'

/** Items from a list of lines, shown as they were understood before they are added. */
const props = defineProps<{ start?: string; under?: IntentOf<'add-outline'>['under'] }>()
const emit = defineEmits<{ added: [keys: string[]] }>()
const store = useProgram()
const backlog = useBacklog()
const text = ref(props.start ?? '')
const busy = ref(false)
const example =
  '- Fog signals\n  - Horn on Outer Stennholm\n    - Mount the horn (4 d, FW)\n    - Sound it from the console (5, KC, #fog)'

const draft = useDraft({
  name: () => 'outline',
  read: () => text.value,
  start: () => '',
  fresh: () => !!props.start,
  write: (typed) => (text.value = typed),
})

/** Each line as it would be taken in. */
const { answer: lines, failure } = useAnswer(
  () =>
    text.value.trim()
      ? answer(
          client.POST('/api/v1/programs/{id}/outlines/check', {
            params: { path: { id: store.id } },
            body: { text: text.value, under: props.under },
          }),
        )
      : undefined,
  [text, () => store.revision],
  { wait: 150 },
)
type Line = NonNullable<typeof lines.value>[number]
const facts = ({ item }: Line) =>
  [
    item.kind,
    item.size === undefined ? '' : sized(item.size, store.teams.get(item.team ?? '')),
    store.teams.get(item.team ?? '')?.name,
    store.releases.get(item.release ?? '')?.name,
    ...(item.tags ?? []).map((tag) => `#${tag}`),
    item.state === 'done' ? 'done' : '',
  ]
    .filter(Boolean)
    .join(' · ')

async function add(): Promise<void> {
  if (busy.value || !lines.value) return
  busy.value = true
  const done = await backlog.edit({ do: 'add-outline', text: text.value, under: props.under })
  busy.value = false
  if (!done) return
  draft.saved()
  emit('added', done.keys)
}
</script>

<template>
  <div class="outline">
    <p>
      A list, a line each. What is indented belongs to the line above; in brackets stand a size, a team, a
      kind, a release, and tags.
    </p>
    <DraftLine :draft="draft" />
    <textarea
      v-model="text"
      :autofocus="!!start"
      class="in"
      rows="9"
      aria-label="Outline"
      :placeholder="example"
      spellcheck="false"
      @keydown.ctrl.enter.prevent="add"
    />
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    <ol v-if="lines?.length" class="lines" aria-label="As it was understood">
      <li v-for="l in lines" :key="l.line" :style="{ paddingLeft: `${l.depth * 16}px` }">
        <b v-if="l.group">{{ l.item.title }}</b>
        <template v-else>{{ l.item.title }}</template>
        <span class="quiet small">{{ ` · ${facts(l)}` }}</span>
        <span v-if="l.unknown?.length" class="flag small">
          “{{ l.unknown.join('”, “') }}” is no size, team, kind, release or tag; it stays in the title
        </span>
      </li>
    </ol>
    <div class="buttons">
      <Button
        :label="lines?.length ? `Add ${count(lines.length, 'item')}` : 'Add'"
        :disabled="!text.trim() || !lines?.length || busy || !store.connected"
        title="Ctrl+Enter"
        @click="add"
      />
    </div>
  </div>
</template>

<style scoped>
.outline {
  display: grid;
  gap: 8px;
}

p {
  margin: 0;
}

.lines {
  max-height: 300px;
  overflow: auto;
  margin: 0;
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 8px 12px;
  list-style: none;
  background: var(--panel);
}

.lines li {
  padding: 2px 0;
}

.flag {
  display: block;
}
</style>
