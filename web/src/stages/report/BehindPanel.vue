<script setup lang="ts">
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import type { Item } from '@/api/types'
import { stateTitles } from '@/line/course'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'
import { choicesOf } from '@/views/choices'
import { shortDate } from '@/ui/dates'
import { count } from '@/ui/format'
import { useReport } from './report'
import SidePanel from '@/ui/SidePanel.vue'
import ThingLine from './ThingLine.vue'

/** What a part of a chart counts, one by one; items can be changed on the spot, and the chart follows. */
const store = useProgram()
const report = useReport()
const looked = computed(() => report.looked!)
const found = useAnswer(
  (signal) =>
    store.id && report.looked
      ? answer(
          client.POST('/api/v1/programs/{id}/charts/behind', {
            params: { path: { id: store.id } },
            body: {
              chart: looked.value.chart,
              row: looked.value.row,
              column: looked.value.column,
              day: looked.value.day,
            },
            signal,
          }),
        )
      : undefined,
  [() => store.id, () => report.looked, () => store.revision, () => store.today],
  { wait: 20, forget: ([id, now], [before, was]) => id !== before || now !== was },
)
const unit = computed(() => {
  const drawn = report.drawn.answer?.of.get(JSON.stringify(looked.value.chart))
  return drawn?.table ?? drawn?.series ?? { unit: 'number' as const }
})
const words = computed(() => report.vocabulary?.sources.find((s) => s.name === looked.value.chart.of))
const value = (event: Event) => (event.target as HTMLInputElement).value
const may = (item: Item, field: string) =>
  store.may({ op: 'set', kind: 'item', key: item.key, field } as never)
const itemOf = (key?: string) => store.items.get(key ?? '')
/** As cells of the backlog are entered: the server reads the words. */
const enter = (item: Item, field: string, text: string) =>
  store.mean({ do: 'enter', keys: [item.key], fields: [field], cells: [[text]] })
/** In the past nothing is changed. */
const now = computed(() => !looked.value.day || looked.value.day >= store.today)
</script>

<template>
  <SidePanel
    label="What it counts"
    :title="looked.title"
    closes="Close"
    wide
    @close="report.looked = undefined"
  >
    <p class="quiet small">
      {{ looked.text
      }}<template v-if="!now">, as it was at the end of {{ shortDate(looked.day, store.todayDay) }}</template>
    </p>
    <p v-if="found.failure.value" role="alert" class="failure">{{ found.failure.value }}</p>
    <p v-else-if="!found.answer.value" role="status" class="quiet">Looking…</p>
    <template v-else>
      <p>
        {{ count(found.answer.value.count, words?.one ?? 'thing', words?.many) }}
      </p>
      <ol tabindex="0" aria-label="What it counts">
        <ThingLine
          v-for="(t, i) in found.answer.value.things"
          :key="`${t.kind} ${t.in} ${t.key} ${i}`"
          :thing="t"
          :of="unit"
        >
          <template v-if="now && t.kind === 'item' && itemOf(t.key)">
            <select
              class="in"
              :aria-label="`State of ${t.key}`"
              :value="itemOf(t.key)!.state ?? 'todo'"
              :disabled="!may(itemOf(t.key)!, 'state')"
              @change="enter(itemOf(t.key)!, 'state', value($event))"
            >
              <option v-for="[state, title] in stateTitles" :key="state" :value="state">{{ title }}</option>
            </select>
            <select
              class="in who"
              :aria-label="`Assigned to, of ${t.key}`"
              :value="itemOf(t.key)!.assignee ?? ''"
              :disabled="!may(itemOf(t.key)!, 'assignee')"
              @change="enter(itemOf(t.key)!, 'assignee', value($event))"
            >
              <option v-for="c in choicesOf('assignee', store.program)" :key="c.value" :value="c.value">
                {{ c.label }}
              </option>
            </select>
          </template>
        </ThingLine>
      </ol>
      <p v-if="found.answer.value.count > found.answer.value.things.length" class="quiet">
        and {{ count(found.answer.value.count - found.answer.value.things.length, 'more', 'more') }}
      </p>
    </template>
  </SidePanel>
</template>

<style scoped>
ol {
  flex: 1;
  margin: 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}

ol:focus-visible {
  outline: 2px solid var(--focus);
}

.in {
  flex: none;
  width: 84px;
  height: 24px;
  padding: 0 2px;
  font-size: 12px;
}

.who {
  width: 104px;
}
</style>
