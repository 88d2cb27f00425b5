<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onMounted, reactive, ref, watch } from 'vue'
import type { Item } from '@/api/types'
import { toDate } from '@/ui/dates'
import { matching, unsettled } from '@/ui/matching'
import { dayHint, dayText, parseDay } from '@/ui/parseDay'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import { choicesOf } from '@/views/choices'
import { enteredAs, entryOf, suggestionsOf } from './cells'

/**
 * One cell while it is edited. What it says goes to whoever opened it. Where one chooses, what
 * is written is matched against what can be chosen, and nothing that is unclear is taken; where
 * one writes, what the program has already is offered.
 */
const props = defineProps<{ item: Item; field: string; typed?: string }>()
type Then = 'stay' | 'down' | 'right' | 'left'
const emit = defineEmits<{ done: [text: string | undefined, then: Then] }>()
const store = useProgram()
const backlog = useBacklog()
const field = computed(() => enteredAs(props.field))
const choices = choicesOf(field.value, store.program, props.item)
const suggestions = suggestionsOf(field.value, store.program)
const before = entryOf(field.value, props.item, store)
const isDay = computed(() => backlog.fields.get(field.value)?.sort === 'day')
const title = computed(() => backlog.fields.get(field.value)?.title)

const label = choices?.find((c) => c.value === before)?.label ?? ''
const shown = choices ? label : isDay.value ? dayText(before) : before
const text = ref(shown)
/** Whether anything was written: before that, all choices are shown. */
const written = ref(false)
/** The line that the arrow keys are on; −1: none. */
const at = ref(-1)
const refused = ref('')
const input = ref<HTMLInputElement>()

/** The part of a list of tags that is being written. */
const part = computed(() => text.value.slice(text.value.lastIndexOf(',') + 1).trim())
const offered = computed(() => {
  if (choices) return written.value ? matching(choices, text.value) : choices
  if (!suggestions || !written.value || !part.value) return []
  return matching(suggestions, part.value).filter((c) => c.label !== part.value)
})
/** The choice that is taken as it stands; −1: none, or one has to say more. */
const on = computed(() =>
  at.value < 0 && choices && written.value && offered.value.length === 1 ? 0 : at.value,
)
watch(text, () => {
  written.value = true
  refused.value = ''
  at.value = -1
})

onMounted(() => {
  if (props.typed !== undefined) text.value = props.typed
  input.value?.focus()
  if (props.typed === undefined) input.value?.select()
  at.value = choices && props.typed === undefined ? choices.findIndex((c) => c.value === before) : -1
  place()
})

/** What is taken, or why nothing can be. */
function taken(): { text?: string; refused?: string } {
  if (isDay.value) {
    const day = text.value.trim() ? parseDay(text.value, store.todayDay) : undefined
    if (text.value === shown) return { text: before }
    if (!text.value.trim()) return { text: '' }
    return day === undefined
      ? { refused: `“${text.value.trim()}” is no date. ${dayHint}` }
      : { text: toDate(day) }
  }
  if (!choices) return { text: text.value }
  const chosen = offered.value[at.value]
  if (chosen) return { text: chosen.value }
  if (!written.value) return { text: before }
  const none = choices.find((c) => c.value === '')
  if (!text.value.trim()) return none ? { text: '' } : { text: before }
  const why = unsettled(choices, text.value)
  return why ? { refused: why } : { text: matching(choices, text.value)[0].value }
}

let over = false
function finish(then: Then, keep = true): void {
  if (over) return
  const { text: found, refused: why } = keep ? taken() : { text: before }
  if (why !== undefined) {
    refused.value = why
    return
  }
  over = true
  emit('done', found !== before ? found : undefined, then)
}

/** Whoever goes elsewhere with something unclear in the cell is told that it was not taken. */
function leave(): void {
  if (over) return
  const { refused: why } = taken()
  if (why !== undefined)
    store.notice = { text: `${title.value} of ${props.item.key}: ${why}`, severity: 'warn' }
  finish('stay', why === undefined)
}

/** Puts a suggestion in the place of what was written of it. */
function complete(suggestion: string): void {
  const cut = text.value.lastIndexOf(',') + 1
  text.value = text.value.slice(0, cut) + (cut ? ' ' : '') + suggestion
}

function choose(index: number): void {
  at.value = index
  if (choices) finish('stay')
  else complete(offered.value[index].label)
}

function key(event: KeyboardEvent): void {
  event.stopPropagation()
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (step && offered.value.length) {
    event.preventDefault()
    const n = offered.value.length
    at.value = at.value < 0 && step < 0 ? n - 1 : (at.value + step + n) % n
    void nextTick(() => document.getElementById(`choice-${at.value}`)?.scrollIntoView({ block: 'nearest' }))
    return
  }
  const way = { Enter: 'down', Tab: event.shiftKey ? 'left' : 'right', Escape: 'stay' }[event.key] as
    Then | undefined
  if (!way) return
  event.preventDefault()
  if (event.key === 'Enter' && !choices && offered.value[at.value]) {
    complete(offered.value[at.value].label)
    return
  }
  finish(way, event.key !== 'Escape')
}

/** Where the list stands: below the cell, or above it where there is no room. */
const spot = reactive({ left: 0, top: 0, bottom: 0, up: false, width: 0 })
function place(): void {
  const box = input.value?.getBoundingClientRect()
  if (!box) return
  Object.assign(spot, {
    left: Math.min(box.left, window.innerWidth - 240),
    top: box.bottom,
    bottom: window.innerHeight - box.top,
    up: window.innerHeight - box.bottom < 220,
    width: box.width,
  })
}
useEventListener(window, 'scroll', place, { capture: true, passive: true })
useEventListener(window, 'resize', place)
</script>

<template>
  <input
    ref="input"
    v-model="text"
    :aria-label="title"
    :role="choices || suggestions ? 'combobox' : undefined"
    :aria-expanded="choices || suggestions ? offered.length > 0 : undefined"
    :aria-controls="choices || suggestions ? 'choices' : undefined"
    :aria-activedescendant="on >= 0 ? `choice-${on}` : undefined"
    :aria-invalid="refused ? true : undefined"
    :class="{ refused }"
    autocomplete="off"
    maxlength="5000"
    spellcheck="false"
    @keydown="key"
    @blur="leave"
    @pointerdown.stop
  />
  <Teleport v-if="choices || suggestions || isDay" to="body">
    <div
      v-show="offered.length || refused"
      class="choices"
      :style="{
        left: spot.left + 'px',
        minWidth: Math.max(140, spot.width) + 'px',
        ...(spot.up ? { bottom: spot.bottom + 'px' } : { top: spot.top + 'px' }),
      }"
    >
      <p v-if="refused" class="why" role="alert">{{ refused }}</p>
      <ul v-if="!isDay" id="choices" role="listbox" :aria-label="title">
        <li
          v-for="(c, i) in offered"
          :id="`choice-${i}`"
          :key="c.value"
          role="option"
          :aria-selected="i === on"
          :class="{ none: !c.value }"
          @pointerdown.prevent.stop="choose(i)"
        >
          {{ c.label }}
        </li>
      </ul>
    </div>
  </Teleport>
</template>

<style scoped>
input {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  padding: 0 5px;
  border: 2px solid var(--focus);
  border-radius: 0;
  background: var(--panel);
  color: var(--ink);
  font: inherit;
  outline: none;
}

input.refused {
  border-color: var(--over);
}

.choices {
  position: fixed;
  z-index: 30;
  max-width: 340px;
  border: 1px solid var(--edge);
  background: var(--panel);
  box-shadow: 0 4px 14px rgb(0 0 0 / 18%);
}

.choices ul {
  max-height: 210px;
  margin: 0;
  padding: 3px 0;
  overflow: auto;
  list-style: none;
}

.choices li {
  padding: 3px 10px;
  cursor: pointer;
}

.choices li:hover,
.choices li[aria-selected='true'] {
  background: var(--tint);
}

.choices .none {
  color: var(--quiet);
}

.why {
  margin: 0;
  padding: 5px 10px;
  border-left: 4px solid var(--over);
  background: var(--over-soft);
}
</style>
