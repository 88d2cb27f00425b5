<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Item } from '@/api/types'
import { asDate, timeText } from '@/ui/dates'
import { markdown } from '@/ui/markdown'
import { useProgram } from '@/line/program'
import MentionField from '@/ui/MentionField.vue'
import { useDraft } from '@/line/useDraft'
import DraftLine from '@/ui/DraftLine.vue'

/** What was said about an item. */
const props = defineProps<{ item: Item }>()
const store = useProgram()
const comments = computed(() => (store.program.comments ?? []).filter((c) => c.item === props.item.key))
const names = computed(() => (store.program.people ?? []).map((p) => p.name))
const text = ref('')
const draft = useDraft({
  name: () => `comment on ${props.item.key}`,
  read: () => text.value,
  start: () => '',
  write: (typed) => (text.value = typed),
})
const may = computed(() => store.may({ op: 'add', kind: 'comment', in: props.item.key }))

async function say(): Promise<void> {
  const said = text.value.trim()
  if (!said) return
  const key = crypto.randomUUID()
  text.value = ''
  draft.saved()
  // The server signs it and says when.
  const value = { key, item: props.item.key, by: '', text: said }
  const done = await store.apply(`Comment on ${props.item.key}`, [
    { op: 'add', kind: 'comment', in: props.item.key, key, value },
  ])
  if (!done) text.value = said
}
const remove = (key: string) =>
  store.apply(`Take back a comment on ${props.item.key}`, [
    { op: 'remove', kind: 'comment', in: props.item.key, key },
  ])
</script>

<template>
  <div class="talk">
    <p v-if="!comments.length" class="quiet">Nothing has been said about it yet.</p>
    <article v-for="c in comments" :key="c.key">
      <header>
        <b>{{ c.by }}</b>
        <span class="quiet">{{ c.at ? timeText(c.at, asDate(store.todayDay)) : '' }}</span>
        <span class="gap" />
        <button
          v-if="store.may({ op: 'remove', kind: 'comment', in: item.key, key: c.key })"
          class="round"
          :aria-label="`Take back the comment of ${c.by}`"
          @click="remove(c.key)"
        >
          <i class="pi pi-times" aria-hidden="true" />
        </button>
      </header>
      <!-- eslint-disable-next-line vue/no-v-html -- cleaned by markdown() -->
      <div class="prose" v-html="markdown(c.text, names)" />
    </article>
    <form v-if="may" @submit.prevent="say">
      <DraftLine :draft="draft" />
      <MentionField
        v-model="text"
        :rows="3"
        :people="store.program.people ?? []"
        aria-label="Your comment"
        placeholder="Say something; @ mentions somebody, Markdown is fine"
        maxlength="20000"
        @keydown.ctrl.enter.prevent="say"
      />
      <Button type="submit" size="small" label="Say" title="Ctrl + Enter" :disabled="!text.trim()" />
    </form>
  </div>
</template>

<style scoped>
.talk,
form {
  display: grid;
  gap: 8px;
  justify-items: start;
}

p {
  margin: 0;
}

article {
  width: 100%;
}

header {
  display: flex;
  gap: 8px;
  align-items: center;
}

.gap {
  flex: 1;
}

.prose {
  padding: 4px 10px;
  border-radius: 6px;
  background: var(--paper);
  overflow-wrap: anywhere;
}

.prose :deep(p) {
  margin: 4px 0;
}

.prose :deep(.mention) {
  text-decoration: underline;
  text-decoration-color: var(--water);
  text-underline-offset: 2px;
}

form {
  width: 100%;
}
</style>
