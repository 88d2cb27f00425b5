<script setup lang="ts">
import Popover from 'primevue/popover'
import { computed, defineAsyncComponent, nextTick, ref, watch, type ComponentPublicInstance } from 'vue'
import { toDate, toDay } from './dates'
import { dayHint, dayText, parseDay } from './parseDay'
import { useToday } from './today'

/**
 * A date: it reads "12 Feb 2027", is typed in any usual way, or chosen from a calendar. What it
 * is bound to is 2027-02-12, or empty. It changes when it is left or with Enter, and stays
 * marked while it means no date.
 */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ modelValue?: string; min?: string; disabled?: boolean }>()
const emit = defineEmits<{ 'update:modelValue': [date: string] }>()
const DatePicker = defineAsyncComponent(() => import('primevue/datepicker'))
const today = useToday()
const text = ref('')
const wrong = ref('')
const input = ref<HTMLInputElement>()
const popover = ref<InstanceType<typeof Popover>>()

/** What the field was last given to read; what it reads otherwise has been typed since. */
let given = ''
function give(date?: string): void {
  text.value = given = dayText(date)
  say('')
}
// What is typed stays: the date may change after that, by an answer to what was taken before or by somebody else.
watch(
  () => props.modelValue,
  (date) => {
    if (text.value === given || document.activeElement !== input.value) give(date)
  },
  { immediate: true },
)

function say(what: string): void {
  wrong.value = what
  input.value?.setCustomValidity(what)
}

/** Takes what is written; false where it means no date that may be. */
function take(): boolean {
  const written = text.value.trim()
  const before = props.modelValue ?? ''
  if (written === dayText(before)) {
    say('')
    return true
  }
  const day = written ? parseDay(written, today()) : undefined
  if (written && day === undefined) say(`“${written}” is no date. ${dayHint}`)
  else if (day !== undefined && props.min && day < toDay(props.min))
    say(`This is before ${dayText(props.min)}.`)
  else {
    const date = day === undefined ? '' : toDate(day)
    give(date)
    if (date !== before) emit('update:modelValue', date)
  }
  return !wrong.value
}

function key(event: KeyboardEvent): void {
  if (event.key === 'Enter' && !take()) event.preventDefault()
  else if (event.key === 'ArrowDown') {
    event.preventDefault()
    popover.value?.show(event, input.value)
  }
}

/** The calendar's days are those of this machine's clock. */
const local = (date: string): Date => {
  const [y, m, d] = date.split('-').map(Number)
  return new Date(y, m - 1, d)
}
const shown = computed(() => local(toDate(parseDay(text.value, today()) ?? today())))
const from = computed(() => (props.min ? local(props.min) : undefined))
let calendar: HTMLElement | undefined
/** The keyboard goes to the day that the calendar shows; from there arrows lead on, and Enter takes it. */
function enterCalendar(): void {
  const day = calendar?.querySelector<HTMLElement>('td [aria-selected="true"]')
  if (!day) return
  day.tabIndex = 0
  day.focus()
}
/** Whoever leaves the calendar by key is where they were; who went elsewhere stays there. */
function leaveCalendar(): void {
  const at = document.activeElement
  if (at === document.body || at?.closest('.p-datepicker')) input.value?.focus()
}
/** The calendar is loaded when it is first asked for: it may be there only after it was opened. */
function reachCalendar(made: unknown): void {
  const before = calendar
  calendar = (made as ComponentPublicInstance | null)?.$el as HTMLElement | undefined
  if (calendar && calendar !== before) void nextTick(enterCalendar)
}

function choose(date: unknown): void {
  if (!(date instanceof Date)) return
  text.value = dayText(toDate(Date.UTC(date.getFullYear(), date.getMonth(), date.getDate()) / 86_400_000))
  popover.value?.hide()
  take()
}
</script>

<template>
  <span class="date-field">
    <input
      v-bind="$attrs"
      ref="input"
      v-model="text"
      type="text"
      class="in"
      autocomplete="off"
      spellcheck="false"
      placeholder="no date"
      :disabled="disabled"
      :aria-invalid="wrong ? true : undefined"
      :title="wrong || undefined"
      @keydown="key"
      @change="take"
      @refused.prevent="say($event.detail)"
    />
    <button
      type="button"
      class="open"
      tabindex="-1"
      aria-label="Choose from a calendar"
      :disabled="disabled"
      @click="popover?.toggle($event, input)"
    >
      <i class="pi pi-calendar" aria-hidden="true" />
    </button>
    <Popover ref="popover" aria-label="Calendar" @show="enterCalendar" @hide="leaveCalendar">
      <DatePicker
        :ref="reachCalendar"
        inline
        :model-value="shown"
        :min-date="from"
        @update:model-value="choose"
      />
    </Popover>
    <span v-if="wrong" class="wrong" role="alert">{{ wrong }}</span>
  </span>
</template>

<style scoped>
.date-field {
  position: relative;
  display: inline-flex;
  width: 138px;
  max-width: 100%;
}

.date-field .in {
  width: 100%;
  padding-right: 26px;
}

.in[aria-invalid] {
  border-color: var(--over);
  background: var(--over-soft);
}

/* What is wrong stands below the field while one is there. */
.wrong {
  position: absolute;
  z-index: 20;
  top: calc(100% + 2px);
  right: 0;
  width: 250px;
  padding: 5px 10px;
  border-left: 4px solid var(--over);
  background: var(--over-soft);
  font-size: 12px;
}

.date-field:not(:focus-within) .wrong {
  opacity: 0;
  pointer-events: none;
}

.open {
  position: absolute;
  top: 0;
  bottom: 0;
  right: 2px;
  width: 24px;
  border: 0;
  background: none;
  color: var(--quiet);
  cursor: pointer;
}
</style>
