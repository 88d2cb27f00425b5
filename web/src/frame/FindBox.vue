<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useProgram } from '@/line/program'
import { useHits, type Hit } from './useHits'

/** Find or do: jumps to any thing of the program, and does any command, by typing. */
const emit = defineEmits<{ journal: [] }>()
const router = useRouter()
const store = useProgram()
const text = ref('')
const open = ref(false)
const at = ref(0)
const input = ref<HTMLInputElement>()

const { commands, things } = useHits(() => emit('journal'))

const MOST = 12
const hits = computed<Hit[]>(() => {
  const words = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  if (!words.length) return commands.value.slice(0, MOST)
  const has = (label: string) => {
    const small = label.toLowerCase()
    return words.every((w) => small.includes(w))
  }
  // What begins with the words comes before what merely has them.
  const begins = (h: Hit) => (h.label.toLowerCase().startsWith(words.join(' ')) ? 0 : 1)
  const found = [...commands.value, ...things.value]
    .filter((h) => has(h.label))
    .sort((a, b) => begins(a) - begins(b))
  const items: Hit[] = []
  for (const item of store.program.items ?? []) {
    if (items.length >= MOST) break
    const label = `${item.key} ${item.title}`
    const exact = item.key.toLowerCase() === words.join(' ')
    if (!exact && !has(label)) continue
    const hit = {
      id: `item-${item.key}`,
      kind: item.kind,
      label,
      go: () => router.push({ name: 'backlog', params: { id: store.id }, query: { item: item.key } }),
    }
    if (exact) found.unshift(hit)
    else items.push(hit)
  }
  return [...found.slice(0, MOST), ...items].slice(0, MOST)
})
watch(text, () => (at.value = 0))

function leave(): void {
  open.value = false
  text.value = ''
  input.value?.blur()
}
async function take(hit: Hit | undefined): Promise<void> {
  if (!hit) return
  leave()
  await hit.go()
}
function key(event: KeyboardEvent): void {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (step) {
    event.preventDefault()
    at.value = (at.value + step + hits.value.length) % Math.max(1, hits.value.length)
  } else if (event.key === 'Enter') {
    event.preventDefault()
    void take(hits.value[at.value])
  } else if (event.key === 'Escape') {
    event.stopPropagation()
    leave()
  }
}
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k' || event.shiftKey || event.altKey)
    return
  event.preventDefault()
  input.value?.focus()
})
</script>

<template>
  <div class="box">
    <input
      ref="input"
      v-model="text"
      role="combobox"
      aria-label="Find or do"
      placeholder="Find or do (Ctrl + K)"
      autocomplete="off"
      aria-controls="find-or-do"
      :aria-expanded="open"
      :aria-activedescendant="open && hits.length ? `hit-${at}` : undefined"
      @focus="open = true"
      @blur="open = false"
      @keydown="key"
    />
    <ul v-show="open" id="find-or-do" role="listbox" aria-label="Found">
      <li
        v-for="(hit, i) in hits"
        :id="`hit-${i}`"
        :key="hit.id"
        role="option"
        :aria-selected="i === at"
        @pointerdown.prevent="take(hit)"
        @pointermove="at = i"
      >
        <span class="kind">{{ hit.kind }}</span> {{ hit.label }}
      </li>
      <li v-if="!hits.length" role="option" aria-disabled="true" aria-selected="false" class="quiet">
        Nothing has these words.
      </li>
    </ul>
  </div>
</template>

<style scoped>
.box {
  position: relative;
  flex: 0 1 196px;
  min-width: 90px;
}

input {
  width: 100%;
  height: 28px;
  padding: 0 10px;
  border: 1px solid var(--bar-quiet);
  border-radius: 6px;
  background: transparent;
  color: var(--bar-text);
  font: inherit;
}

input::placeholder {
  color: var(--bar-quiet);
}

ul {
  position: absolute;
  top: 32px;
  right: 0;
  z-index: 1200;
  width: 440px;
  margin: 0;
  padding: 5px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
  color: var(--ink);
  box-shadow: var(--shadow);
  list-style: none;
}

li {
  display: flex;
  gap: 8px;
  padding: 5px 8px;
  border-radius: 5px;
  overflow: hidden;
  white-space: nowrap;
  cursor: pointer;
}

li[aria-selected='true'] {
  background: var(--tint);
  box-shadow: inset 0 0 0 1px var(--focus);
}

.kind {
  flex: none;
  width: 62px;
  color: var(--quiet);
  font-size: 12px;
}
</style>
