<script setup lang="ts">
import { computed, nextTick, ref, useId, watch } from 'vue'
import { begun, meant, type Begun } from './mentions'

/** A field for what one says: an @ in it offers people by name. */
const props = defineProps<{
  people: readonly { key: string; name: string }[]
  /** How many lines it has; of one, Enter is left to who asks. */
  rows?: number
}>()
defineOptions({ inheritAttrs: false })
const text = defineModel<string>({ default: '' })
const field = ref<HTMLInputElement | HTMLTextAreaElement>()
const id = useId()

const typed = ref<Begun>()
const at = ref(0)
const offered = computed(() => (typed.value ? meant(props.people, typed.value.text) : []))
const open = computed(() => offered.value.length > 0)
watch(offered, () => (at.value = 0))

/** Reads the field itself: what it has told is the model's only once who holds that took it. */
function look(): void {
  typed.value = field.value && begun(field.value.value, field.value.selectionStart ?? 0)
}
async function pick(name: string): Promise<void> {
  const start = typed.value?.at
  if (start === undefined || !field.value) return
  const { value, selectionStart } = field.value
  text.value = `${value.slice(0, start)}@${name} ${value.slice(selectionStart ?? value.length)}`
  typed.value = undefined
  await nextTick()
  field.value.focus()
  field.value.setSelectionRange(start + name.length + 2, start + name.length + 2)
}
/** While people are offered, the keys that choose among them are the list's. */
function key(event: KeyboardEvent): void {
  if (!open.value || event.ctrlKey || event.metaKey || event.altKey) return
  const n = offered.value.length
  const does: Record<string, () => void> = {
    ArrowDown: () => (at.value = (at.value + 1) % n),
    ArrowUp: () => (at.value = (at.value + n - 1) % n),
    Enter: () => void pick(offered.value[at.value].name),
    Tab: () => void pick(offered.value[at.value].name),
    Escape: () => (typed.value = undefined),
  }
  const what = event.shiftKey ? undefined : does[event.key]
  if (!what) return
  event.preventDefault()
  event.stopPropagation()
  what()
}
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <span class="says">
    <component
      :is="rows ? 'textarea' : 'input'"
      ref="field"
      v-bind="$attrs"
      class="in"
      :rows="rows"
      role="combobox"
      aria-autocomplete="list"
      :aria-expanded="open"
      :aria-controls="id"
      :aria-activedescendant="open ? `${id}-${at}` : undefined"
      :value="text"
      @input="((text = ($event.target as HTMLInputElement).value), look())"
      @click="look"
      @blur="typed = undefined"
      @keydown.capture="key"
    />
    <ul v-show="open" :id="id" role="listbox" aria-label="People to mention">
      <li
        v-for="(p, i) in offered"
        :id="`${id}-${i}`"
        :key="p.key"
        role="option"
        :aria-selected="i === at"
        @mousedown.prevent="pick(p.name)"
      >
        {{ p.name }}
      </li>
    </ul>
  </span>
</template>

<style scoped>
.says {
  position: relative;
  flex: 1;
  width: 100%;
  min-width: 80px;
}

.in {
  width: 100%;
}

ul {
  position: absolute;
  z-index: 5;
  top: 100%;
  left: 0;
  min-width: 200px;
  margin: 2px 0 0;
  padding: 4px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--panel);
  box-shadow: 0 4px 14px rgb(0 0 0 / 20%);
  list-style: none;
}

li {
  padding: 3px 8px;
  border-radius: 4px;
  cursor: pointer;
}

li[aria-selected='true'] {
  background: var(--paper);
  outline: 1px solid var(--focus);
}
</style>
