<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Check, Item, Link, Task } from '@/api/types'
import { amount } from '@/ui/format'
import { useProgram } from '@/line/program'

/** Tasks with hours left, checks and links of an item. */
const props = defineProps<{ item: Item }>()
const store = useProgram()
const may = (field: string) => store.may({ op: 'set', kind: 'item', key: props.item.key, field })
const tasks = computed(() => props.item.tasks ?? [])
const checks = computed(() => props.item.checks ?? [])
const links = computed(() => props.item.links ?? [])
const hours = computed(() =>
  tasks.value.reduce((sum, t) => sum + (t.done ? 0 : (t.hoursLeft ?? t.hours ?? 0)), 0),
)
const activities = computed(() => store.program.settings.activities ?? [])
/** The activities to choose from, with one that is not among them any more. */
const withOwn = (own?: string) =>
  own && !activities.value.includes(own) ? [...activities.value, own] : activities.value
const hoursOf = (event: Event) => (text(event) ? Number(text(event)) : undefined)

const keep = (field: 'tasks' | 'checks' | 'links', value: unknown[], label: string) =>
  store.apply(`${label} of ${props.item.key}`, [
    { op: 'set', kind: 'item', key: props.item.key, field, value },
  ])
const swap = <T,>(list: T[], at: number, value: T): T[] => list.map((x, i) => (i === at ? value : x))
const drop = <T,>(list: T[], at: number): T[] => list.filter((_, i) => i !== at)
const text = (event: Event) => (event.target as HTMLInputElement).value.trim()

const setTask = (at: number, task: Task) => keep('tasks', swap(tasks.value, at, task), 'Tasks')
/** Gives a task another title; an empty one is none, and what there was comes back. */
function rename(at: number, task: Task, event: Event): void {
  const title = text(event)
  if (title) void setTask(at, { ...task, title })
  else (event.target as HTMLInputElement).value = task.title
}
const setCheck = (at: number, check: Check) => keep('checks', swap(checks.value, at, check), 'Checks')

const newTask = ref('')
const newCheck = ref('')
const newLink = ref('')

// The field is cleared before the answer, so that the next one can be typed meanwhile.
async function addTask(): Promise<void> {
  const title = newTask.value.trim()
  // "Night trial 4h": hours at the end are those estimated.
  const timed = /^(.*\S)\s+(\d+(?:[.,]\d+)?)\s*h$/.exec(title)
  const task: Task = timed ? { title: timed[1], hours: Number(timed[2].replace(',', '.')) } : { title }
  newTask.value = ''
  if (title && !(await keep('tasks', [...tasks.value, task], 'Tasks'))) newTask.value = title
}
async function addCheck(): Promise<void> {
  const check = newCheck.value.trim()
  newCheck.value = ''
  if (check && !(await keep('checks', [...checks.value, { text: check }], 'Checks'))) newCheck.value = check
}
async function addLink(): Promise<void> {
  const typed = newLink.value.trim()
  const at = typed.search(/https?:\/\//)
  const link: Link =
    at > 0 ? { title: typed.slice(0, at).trim(), address: typed.slice(at) } : { address: typed }
  newLink.value = ''
  if (typed && !(await keep('links', [...links.value, link], 'Links'))) newLink.value = typed
}
</script>

<template>
  <h3>
    Tasks <span v-if="hours" class="quiet">{{ amount(hours) }} h left</span>
  </h3>
  <div v-for="(task, i) in tasks" :key="i" class="entry task">
    <input
      type="checkbox"
      :checked="!!task.done"
      :disabled="!may('tasks')"
      :aria-label="`${task.title} done`"
      @change="setTask(i, { ...task, done: !task.done })"
    />
    <input
      v-typing
      :class="['in title', { done: task.done }]"
      :value="task.title"
      :disabled="!may('tasks')"
      :aria-label="`Title of task ${i + 1}`"
      maxlength="300"
      @change="rename(i, task, $event)"
    />
    <button
      v-if="may('tasks')"
      class="round"
      :aria-label="`Drop ${task.title}`"
      @click="keep('tasks', drop(tasks, i), 'Tasks')"
    >
      <i class="pi pi-times" aria-hidden="true" />
    </button>
    <span class="more">
      <select
        class="in owner"
        :value="task.owner ?? ''"
        :disabled="!may('tasks')"
        :aria-label="`Owner of ${task.title}`"
        @change="setTask(i, { ...task, owner: text($event) || undefined })"
      >
        <option value="">nobody</option>
        <option v-for="p in store.program.people" :key="p.key" :value="p.key">{{ p.name }}</option>
      </select>
      <select
        v-if="activities.length || task.activity"
        class="in owner"
        :value="task.activity ?? ''"
        :disabled="!may('tasks')"
        :aria-label="`Activity of ${task.title}`"
        @change="setTask(i, { ...task, activity: text($event) || undefined })"
      >
        <option value="">no activity</option>
        <option v-for="a in withOwn(task.activity)" :key="a" :value="a">{{ a }}</option>
      </select>
      <template v-if="!task.done">
        <input
          v-typing
          class="in hours"
          type="number"
          min="0"
          step="0.5"
          :value="task.hoursLeft ?? task.hours ?? ''"
          :disabled="!may('tasks')"
          :aria-label="`Hours left of ${task.title}`"
          title="Hours left"
          @change="setTask(i, { ...task, hoursLeft: hoursOf($event) })"
        />
        <span class="quiet">of</span>
      </template>
      <input
        v-typing
        class="in hours"
        type="number"
        min="0"
        step="0.5"
        :value="task.hours ?? ''"
        :disabled="!may('tasks')"
        :aria-label="`Hours estimated for ${task.title}`"
        title="Hours estimated"
        @change="setTask(i, { ...task, hours: hoursOf($event) })"
      />
      <span class="quiet">h</span>
    </span>
  </div>
  <input
    v-if="may('tasks')"
    v-model="newTask"
    class="in add"
    aria-label="New task"
    placeholder="New task; hours at its end, as 4h"
    maxlength="300"
    @keydown.enter="addTask"
  />
  <h3>
    Checks
    <span v-if="checks.length" class="quiet"
      >{{ checks.filter((c) => c.done).length }} of {{ checks.length }} met</span
    >
  </h3>
  <div v-for="(check, i) in checks" :key="i" class="entry">
    <input
      type="checkbox"
      :checked="!!check.done"
      :disabled="!may('checks')"
      :aria-label="`${check.text} is met`"
      @change="setCheck(i, { ...check, done: !check.done })"
    />
    <span :class="{ done: check.done }">{{ check.text }}</span>
    <button
      v-if="may('checks')"
      class="round"
      :aria-label="`Drop ${check.text}`"
      @click="keep('checks', drop(checks, i), 'Checks')"
    >
      <i class="pi pi-times" aria-hidden="true" />
    </button>
  </div>
  <input
    v-if="may('checks')"
    v-model="newCheck"
    class="in add"
    aria-label="New check"
    placeholder="New check: when is it accepted?"
    maxlength="500"
    @keydown.enter="addCheck"
  />
  <h3>Links</h3>
  <div v-for="(link, i) in links" :key="i" class="entry">
    <a :href="link.address" target="_blank" rel="noopener noreferrer">{{ link.title || link.address }}</a>
    <button
      v-if="may('links')"
      class="round"
      :aria-label="`Drop ${link.title || link.address}`"
      @click="keep('links', drop(links, i), 'Links')"
    >
      <i class="pi pi-times" aria-hidden="true" />
    </button>
  </div>
  <input
    v-if="may('links')"
    v-model="newLink"
    class="in add"
    aria-label="New link"
    placeholder="New link: a title, and https://…"
    maxlength="1000"
    @keydown.enter="addLink"
  />
</template>

<style scoped>
h3 {
  display: flex;
  gap: 8px;
  font-size: 13px;
}

h3 .quiet {
  font: 12px var(--text);
}

.entry {
  display: flex;
  gap: 6px;
  align-items: center;
}

.task {
  flex-wrap: wrap;
}

.task > .title {
  flex: 1 1 70%;
}

.entry > .more {
  display: flex;
  flex: 1 0 100%;
  gap: 6px;
  align-items: center;
  padding-left: 22px;
}

.entry > span:first-of-type:not(.more),
.entry > a {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
  color: inherit;
}

.done {
  color: var(--quiet);
  text-decoration: line-through;
}

.title {
  flex: 1;
  min-width: 0;
  height: 24px;
}

.title:not(:focus, :hover) {
  border-color: transparent;
  background: none;
}

.owner {
  width: 92px;
  height: 24px;
}

.hours {
  width: 50px;
  height: 24px;
}

.add {
  height: 26px;
}
</style>
