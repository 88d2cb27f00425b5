<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answer, client } from '@/api/client'
import type { HoursRow, Item } from '@/api/types'
import ItemPicker from '@/line/ItemPicker.vue'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import { shortDate, toDate, toDay, dayNames } from '@/ui/dates'
import { amount } from '@/ui/format'
import { hoursCell, readHours } from '@/line/hoursText'

/** A person's week as a grid: a row for each thing that hours went to, a column for each day. */
const store = useProgram()
const proposals = useProposals()
const route = useRoute()
const router = useRouter()
const say = (query: Record<string, string | undefined>) =>
  void router.replace({ query: { ...route.query, ...query } })

const people = computed(() => (store.program.people ?? []).filter((p) => !p.openSeat))
const person = computed(
  () =>
    [route.query.person, store.mine.person]
      .map((key) => people.value.find((p) => p.key === key))
      .find(Boolean) ?? people.value[0],
)
const day = computed(() => (typeof route.query.week === 'string' ? route.query.week : store.today))
const found = useAnswer(
  () =>
    store.id && person.value
      ? answer(
          client.GET('/api/v1/programs/{id}/hours-week', {
            params: { path: { id: store.id }, query: { person: person.value.key, day: day.value } },
          }),
        )
      : undefined,
  [() => store.id, () => store.revision, () => person.value?.key, day],
  { forget: ([id, , who], [idBefore, , whoBefore]) => id !== idBefore || who !== whoBefore },
)
const week = computed(() => found.answer.value)
const dayTitle = (day: number) => `${dayNames[day]} ${shortDate(week.value?.days[day].date, store.todayDay)}`
function turn(weeks: number): void {
  const now = week.value ? toDay(week.value.monday) : store.todayDay
  say({ week: toDate(now + 7 * weeks) })
}

/** Rows that were added by hand and hold nothing yet. */
const added = ref<{ for: string; rows: HoursRow[] }>({ for: '', rows: [] })
const key = (r: Pick<HoursRow, 'item' | 'task' | 'activity'>) => [r.item, r.task, r.activity].join('\n')
/** Where the rows stand: while hours are entered in them they stay there. */
const order = { of: '', at: new Map<string, number>() }
const rows = computed<HoursRow[]>(() => {
  const of = `${person.value?.key} ${week.value?.monday}`
  if (order.of !== of) Object.assign(order, { of, at: new Map<string, number>() })
  const has = new Set(week.value?.rows.map(key))
  const own = added.value.for === person.value?.key ? added.value.rows.filter((r) => !has.has(key(r))) : []
  const all = [...(week.value?.rows ?? []), ...own]
  for (const r of all) if (!order.at.has(key(r))) order.at.set(key(r), order.at.size)
  return all.sort((a, b) => order.at.get(key(a))! - order.at.get(key(b))!)
})
const nothing: Pick<HoursRow, 'hours' | 'notes' | 'spent' | 'all'> = {
  hours: dayNames.map(() => 0),
  notes: dayNames.map(() => ''),
  spent: 0,
  all: 0,
}
const what = (r: HoursRow) =>
  [r.item ? `${r.item} ${r.title ?? ''}`.trim() : '', r.task, r.activity].filter(Boolean).join(', ') ||
  'nothing named'

// What is to be added: on an item, one of its tasks, and an activity.
const item = ref<Item>()
const task = ref('')
const activity = ref('')
const tasks = computed(() => item.value && (store.items.get(item.value.key)?.tasks ?? []))
function pick(picked: Item): void {
  item.value = picked
  task.value = ''
  void store.bringDetails(picked.key)
}
function chooseTask(title: string): void {
  task.value = title
  activity.value = tasks.value?.find((t) => t.title === title)?.activity ?? activity.value
}
async function add(): Promise<void> {
  const row: HoursRow = {
    ...nothing,
    item: item.value?.key,
    title: item.value?.title,
    task: task.value || undefined,
    activity: activity.value || undefined,
  }
  const who = person.value?.key ?? ''
  if (!rows.value.some((r) => key(r) === key(row)))
    added.value = { for: who, rows: [...(added.value.for === who ? added.value.rows : []), row] }
  item.value = undefined
  task.value = ''
  await nextTick()
  focus(
    rows.value.findIndex((r) => key(r) === key(row)),
    Math.min(4, Math.max(0, week.value ? store.todayDay - toDay(week.value.monday) : 0)),
  )
}

const grid = useTemplateRef<HTMLElement>('grid')
function focus(row: number, column: number): void {
  const field = grid.value?.querySelector<HTMLInputElement>(`[data-cell="${row}/${column}"]`)
  field?.focus()
  field?.select()
}
function move(event: KeyboardEvent, row: number, column: number): void {
  const field = event.target as HTMLInputElement
  const all = field.selectionStart === 0 && field.selectionEnd === field.value.length
  const steps: Record<string, [number, number] | false> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    Enter: [event.shiftKey ? -1 : 1, 0],
    // Within a text that is being changed they go through the text.
    ArrowLeft: all && [0, -1],
    ArrowRight: all && [0, 1],
  }
  if (event.key === 'Escape') {
    field.value = hoursCell(rows.value[row].hours[column])
    field.setCustomValidity('')
    field.select()
    return
  }
  if (event.key === 'PageUp' || event.key === 'PageDown') {
    event.preventDefault()
    field.blur()
    turn(event.key === 'PageUp' ? -1 : 1)
    return
  }
  const step = steps[event.key]
  if (!step) return
  event.preventDefault()
  const to: [number, number] = [row + step[0], column + step[1]]
  if (to[0] >= 0 && to[0] < rows.value.length && to[1] >= 0 && to[1] < dayNames.length) focus(...to)
  else field.dispatchEvent(new Event('change')) // the last one: what was typed counts all the same
}

const wrong = ref('')
async function enter(event: Event, row: HoursRow, column: number): Promise<void> {
  const field = event.target as HTMLInputElement
  const typed = readHours(field.value)
  wrong.value = typed
    ? ''
    : `${field.value} is no number of hours up to 24. Type 2, 2.5 or 1:30, and what was done after it.`
  field.setCustomValidity(wrong.value)
  if (!typed || !person.value || !week.value) return
  field.value = hoursCell(typed.hours)
  if (typed.hours === row.hours[column] && typed.note === undefined) return
  const mayTasks =
    !!row.task &&
    !!row.item &&
    (store.may({ op: 'set', kind: 'item', key: row.item, field: 'tasks' }) ||
      (!!row.mine && person.value.key === store.mine.person))
  const done = await proposals.make({
    do: 'enter-time',
    person: person.value.key,
    date: week.value.days[column].date,
    item: row.item,
    task: row.task,
    activity: row.activity,
    hours: typed.hours,
    less: mayTasks,
    note: typed.note,
  })
  if (!done) field.value = hoursCell(row.hours[column])
}
</script>

<template>
  <div class="week">
    <div class="tools">
      <select
        class="in"
        aria-label="Whose hours"
        :value="person?.key"
        @change="say({ person: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="p in people" :key="p.key" :value="p.key">{{ p.name }}</option>
      </select>
      <button class="chip" aria-label="The week before" @click="turn(-1)">
        <i class="pi pi-chevron-left" aria-hidden="true" />
      </button>
      <b v-if="week" class="title"
        >{{ shortDate(week.monday, store.todayDay) }} – {{ shortDate(week.days[6].date, store.todayDay) }}</b
      >
      <button class="chip" aria-label="The week after" @click="turn(1)">
        <i class="pi pi-chevron-right" aria-hidden="true" />
      </button>
      <button class="chip" :disabled="!route.query.week" @click="say({ week: undefined })">This week</button>
      <span class="gap" />
      <span v-if="week" class="quiet">{{ amount(week.spent) }} h of {{ amount(week.capacity) }} h</span>
    </div>
    <p v-if="found.failure.value" role="alert" class="failure">{{ found.failure.value }}</p>
    <p v-else-if="!person" class="quiet">
      Nobody is in the program yet. People are added in
      <RouterLink :to="{ name: 'set-up-people', params: { id: store.id } }">Set up, People</RouterLink>.
    </p>
    <p v-if="wrong" role="alert" class="failure">{{ wrong }}</p>
    <template v-if="week && person">
      <table ref="grid" :aria-label="`Hours of ${person.name}`" data-region>
        <thead>
          <tr>
            <th scope="col">On what</th>
            <th
              v-for="(d, i) in week.days"
              :key="d.date"
              scope="col"
              class="day"
              :class="{ off: !d.capacity, today: d.date === store.today }"
            >
              {{ dayNames[i] }}
              <span class="quiet small">{{ shortDate(d.date, store.todayDay) }}</span>
              <span v-if="d.away" class="away small" :title="d.away">{{ d.away }}</span>
            </th>
            <th scope="col" class="sum">Week</th>
            <th scope="col" class="sum" title="That anybody spent on it ever">In all</th>
            <th scope="col" class="sum">Left</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, r) in rows" :key="key(row)">
            <th scope="row">
              <RouterLink
                v-if="row.item"
                tabindex="-1"
                :to="{ name: 'backlog', params: { id: store.id }, query: { item: row.item } }"
                ><b>{{ row.item }}</b> {{ row.title }}</RouterLink
              >
              <span v-else class="quiet">no item</span>
              <span v-if="row.task"> · {{ row.task }}</span>
              <span v-if="row.activity" class="quiet small activity">{{ row.activity }}</span>
            </th>
            <td v-for="(h, d) in row.hours" :key="d" :class="{ off: !week.days[d].capacity }">
              <input
                v-typing
                class="in cell"
                :data-cell="`${r}/${d}`"
                :value="hoursCell(h)"
                :disabled="!week.may"
                :title="row.notes[d] || undefined"
                :class="{ noted: row.notes[d] }"
                maxlength="200"
                autocomplete="off"
                inputmode="decimal"
                :aria-label="`${what(row)}, ${dayTitle(d)}`"
                @keydown="move($event, r, d)"
                @change="enter($event, row, d)"
                @focus="($event.target as HTMLInputElement).select()"
              />
            </td>
            <td class="sum">{{ hoursCell(row.spent) }}</td>
            <td class="sum quiet">{{ hoursCell(row.all) }}</td>
            <td class="sum quiet">{{ row.left === undefined ? '' : amount(row.left) }}</td>
          </tr>
          <tr v-if="!rows.length">
            <td class="quiet" :colspan="dayNames.length + 4">
              Nothing yet: choose below what the hours went to.
            </td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">Sum</th>
            <td
              v-for="d in week.days"
              :key="d.date"
              class="sum"
              :class="{ off: !d.capacity, over: d.spent > d.capacity + 0.01 }"
            >
              <template v-if="d.spent || d.capacity">
                {{ amount(d.spent) }}<span class="quiet small"> of {{ amount(d.capacity) }}</span>
              </template>
            </td>
            <td class="sum">{{ amount(week.spent) }}</td>
            <td />
            <td />
          </tr>
        </tfoot>
      </table>
      <form v-if="week.may" class="add" aria-label="Another row" @submit.prevent="add">
        <span class="what">
          <span v-if="item" class="picked"
            ><b>{{ item.key }}</b> {{ item.title }}
            <button type="button" class="round" aria-label="Another item" @click="item = undefined">
              <i class="pi pi-times" aria-hidden="true" /></button
          ></span>
          <ItemPicker v-else label="Another item, by key or words; none: on no item" @pick="pick" />
        </span>
        <select
          v-if="tasks?.length"
          class="in"
          aria-label="Which task"
          :value="task"
          @change="chooseTask(($event.target as HTMLSelectElement).value)"
        >
          <option value="">the item as a whole</option>
          <option v-for="t in tasks" :key="t.title" :value="t.title">{{ t.title }}</option>
        </select>
        <select v-model="activity" class="in" aria-label="Which activity">
          <option value="">no activity</option>
          <option v-for="a in store.program.settings.activities" :key="a" :value="a">{{ a }}</option>
        </select>
        <button class="plain-button">Add a row</button>
        <span class="quiet small"
          >2, 2.5 or 1:30; words after it are a note. Page Up, Page Down: other weeks</span
        >
      </form>
      <p v-else class="quiet small">
        You may look at these hours. Members enter their own, and team leads those of their teams.
      </p>
    </template>
  </div>
</template>

<style scoped>
.week {
  display: grid;
  gap: 10px;
}

.tools {
  display: flex;
  gap: 8px;
  align-items: center;
}

.tools select {
  width: auto;
  max-width: 260px;
}

.title {
  min-width: 130px;
  text-align: center;
}

.gap {
  flex: 1;
}

p {
  margin: 0;
}

table {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}

th,
td {
  padding: 3px 4px;
  border-bottom: 1px solid var(--rule);
  text-align: left;
  font-weight: 400;
}

thead th {
  vertical-align: bottom;
  font-weight: 600;
}

th:first-child {
  width: 32%;
  padding-right: 10px;
  overflow-wrap: anywhere;
}

th a {
  color: inherit;
  text-decoration: none;
}

th a:hover {
  text-decoration: underline;
}

.activity {
  margin-left: 6px;
}

.day span {
  display: block;
}

.today {
  box-shadow: inset 0 -2px var(--c0);
}

.away {
  overflow: hidden;
  color: var(--quiet);
  text-overflow: ellipsis;
  white-space: nowrap;
}

.off {
  background: var(--tint);
}

.cell {
  width: 100%;
  text-align: right;
}

.noted {
  border-bottom: 2px dotted var(--c0);
}

.sum {
  text-align: right;
  white-space: nowrap;
}

tfoot th,
tfoot td {
  font-weight: 600;
}

.over {
  color: var(--over);
}

.add {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}

.add .what {
  flex: 0 1 340px;
}

.add .what :deep(input) {
  height: 30px;
}

.add select {
  width: auto;
  max-width: 220px;
}
</style>
