<script setup lang="ts">
import { computed } from 'vue'
import AskText from '@/ui/AskText.vue'
import { shortDate, toDay } from '@/ui/dates'
import { amount, sized } from '@/ui/format'
import type { WatchTask } from '@/api/types'
import TaskList from '@/line/TaskList.vue'
import { titleOf } from '@/line/course'
import { useWatch, type Row } from './watch'

/** An item that concerns one, with what can be done about it in place. */
const props = defineProps<{ row: Row; held: boolean; list: 'going' | 'next' | 'review' }>()
const emit = defineEmits<{ key: [event: KeyboardEvent] }>()
const watch = useWatch()

const item = computed(() => props.row.item)
const course = computed(() => props.row.program.course)
const at = computed(() => titleOf(course.value[item.value.at]))
const on = computed(() =>
  item.value.at + 1 < course.value.length ? titleOf(course.value[item.value.at + 1]) : '',
)
const may = computed(() => watch.mayMove(props.row))
const size = computed(() =>
  item.value.size === undefined ? '' : sized(item.value.size, item.value.unit && { unit: item.value.unit }),
)
const notes = computed(() =>
  [
    item.value.team,
    item.value.iteration,
    at.value,
    item.value.by ? `assigned to ${item.value.by}` : '',
    item.value.spent ? `${amount(item.value.spent)} h spent` : '',
    item.value.due ? `due ${shortDate(item.value.due, toDay(props.row.program.today))}` : '',
    item.value.waits.length ? `waits for ${item.value.waits.join(', ')}` : '',
  ].filter(Boolean),
)
const label = computed(() =>
  [
    `${item.value.item} ${item.value.title}`,
    size.value,
    ...notes.value,
    item.value.blocked ? `blocked: ${item.value.blocked}` : '',
  ]
    .filter(Boolean)
    .join(', '),
)
const asked = computed(() => (watch.asked?.row === props.row.id ? watch.asked : undefined))
const words = computed(() => {
  switch (asked.value?.what) {
    case 'blocked':
      return { label: 'Blocked by (empty: it is not)', go: 'Keep' }
    case 'hours': {
      const task = watch.taskOf(props.row)
      return { label: `Hours today on ${task ? task.title : item.value.item}, as 2 or 1:30`, go: 'Enter' }
    }
    case 'step': {
      const { text, answers } = asked.value.of!.ask
      if (answers.length) return { label: text, answers, leave: 'Cancel' }
      return { label: text, go: 'Send back', people: props.row.program.people }
    }
    default:
      return { label: `About ${item.value.item}`, go: 'Say it', people: props.row.program.people }
  }
})
/** The keyboard is back on the row at once, and follows it where the answer takes it. */
async function answered(make: boolean, value?: string): Promise<void> {
  const { id } = props.row
  const did = make ? watch.reply(value) : Promise.resolve()
  watch.asked = undefined
  await Promise.all([watch.focus(id), watch.stayOn(id, did)])
}
</script>

<template>
  <li
    class="row"
    :class="{ blocked: item.blocked }"
    :data-row="row.id"
    :tabindex="held ? 0 : -1"
    :aria-label="label"
    @keydown="emit('key', $event)"
    @focus="watch.cursor = row.id"
  >
    <div class="what">
      <p>
        <RouterLink
          class="item"
          tabindex="-1"
          :to="{ name: 'backlog', params: { id: row.program.id }, query: { item: item.item } }"
          ><b>{{ item.item }}</b> {{ item.title }}</RouterLink
        >
        <span class="quiet small">{{ size }}</span>
      </p>
      <p class="quiet small">{{ notes.join(' · ') }}</p>
      <p v-if="item.blocked" class="why small">Blocked: {{ item.blocked }}</p>
    </div>
    <div class="does">
      <template v-if="list === 'review' && may">
        <button class="plain-button" tabindex="-1" @click="watch.move(row, course.length - 1)">Accept</button>
        <button class="plain-button" tabindex="-1" @click="watch.move(row, item.at - 1)">Send back…</button>
      </template>
      <template v-else-if="may">
        <button v-if="on" class="plain-button" tabindex="-1" @click="watch.move(row, item.at + 1)">
          On to {{ on }}
        </button>
        <button class="plain-button" tabindex="-1" @click="watch.ask(row, 'blocked')">
          {{ item.blocked ? 'Blocked by…' : 'Blocked…' }}
        </button>
      </template>
      <button v-if="list !== 'review'" class="plain-button" tabindex="-1" @click="watch.ask(row, 'hours')">
        Hours…
      </button>
      <button class="plain-button" tabindex="-1" @click="watch.ask(row, 'comment')">Say…</button>
    </div>
    <AskText
      v-if="asked && asked.text !== undefined"
      v-model="watch.asked!.text"
      class="asks"
      v-bind="words"
      @keep="answered(true)"
      @leave="answered(false)"
    />
    <AskText
      v-else-if="asked"
      class="asks"
      v-bind="words"
      @keep="answered(true, $event)"
      @leave="answered(false)"
    />
    <TaskList
      v-if="item.tasks.length && list !== 'review'"
      class="tasks"
      keys
      :item="item.item"
      :tasks="item.tasks"
      :may="(t) => watch.mayWork(row, t)"
      :mine="(t) => !!(t as WatchTask).mine"
      :spent="(t) => (t as WatchTask).spent"
      spends
      @work="(n, how) => watch.work(row, item.tasks[n], how)"
      @spend="(n, typed) => watch.spend(row, item.tasks[n], typed)"
    />
  </li>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 4px 16px;
  align-items: center;
  padding: 8px 12px;
  border: 1px solid var(--rule);
  border-left: 4px solid var(--c0);
  border-radius: 4px;
  background: var(--panel);
}

.row.blocked {
  border-left-color: var(--over);
}

.row:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: 1px;
}

p {
  margin: 0;
  overflow-wrap: anywhere;
}

.item + .small {
  margin-left: 6px;
}

.item {
  color: inherit;
  text-decoration: none;
}

.item:hover {
  text-decoration: underline;
}

.why {
  color: var(--over);
}

.does {
  display: flex;
  gap: 6px;
}

.asks,
.tasks {
  grid-column: 1 / -1;
}
</style>
