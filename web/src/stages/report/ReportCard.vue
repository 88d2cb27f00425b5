<script setup lang="ts">
import Popover from 'primevue/popover'
import { computed, ref, useTemplateRef } from 'vue'
import { wordsOf } from '@/api/client'
import type { PageCard } from '@/api/types'
import { useChartLook } from '@/ui/chartLook'
import { markdown } from '@/ui/markdown'
import { saveShown } from '@/ui/saveFile'
import type { Told } from './cards/body'
import ChartBody from './cards/ChartBody.vue'
import { bodies, useCard } from './cards/useCard'
import type { Part } from './drawing'
import { GAP, ROW, useReport } from './report'

/** One card of a page: what it is called, what it says in a sentence, then its picture; as a table and as a file too. */
const props = defineProps<{ card: PageCard }>()
const report = useReport()
const look = useChartLook()

const { title, lost } = useCard(() => props.card)
const drawn = computed(() => report.drawnOf(props.card))
const body = useTemplateRef<Told>('body')
const sentence = computed(() => (props.card.chart ? drawn.value?.sentence : body.value?.sentence) ?? '')
const filter = computed(() => (props.card.chart && drawn.value?.filter ? `Where ${drawn.value.filter}.` : ''))
/** What its head takes, and what is left for what it draws. */
const head = computed(() => (props.card.kind === 'text' ? 50 : 72))
const height = computed(() => props.card.high * (ROW + GAP) - GAP - head.value)

const menu = useTemplateRef<InstanceType<typeof Popover>>('menu')
const asTable = ref(false)
const failure = ref('')
const inside = useTemplateRef<HTMLElement>('inside')
const hasPicture = computed(
  () =>
    !asTable.value &&
    !['text', 'dates', 'capacity', 'ledger', 'mix', 'attention', 'needs'].includes(props.card.kind) &&
    !['table', 'figure', 'list'].includes(props.card.chart?.form ?? ''),
)
const html = computed(() => markdown(props.card.text ?? ''))
const fileName = computed(
  () =>
    title.value
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'card',
)
async function save(as: 'PNG' | 'SVG' | 'CSV'): Promise<void> {
  menu.value?.hide()
  failure.value = ''
  try {
    const svg = inside.value?.querySelector('svg')
    await saveShown(as, fileName.value, { svg, table: body.value?.table }, look().token('--panel'))
  } catch (error) {
    failure.value = wordsOf(error)
  }
}
function showTable(): void {
  menu.value?.hide()
  asTable.value = !asTable.value
}
function settings(): void {
  menu.value?.hide()
  report.chosen = props.card.key
}
/** What may be longer than there is room for: a text, a list, a table. Pictures are as high as they are let. */
const long = () => inside.value?.querySelector<HTMLElement>('[role="region"]')
/** Makes the card as high as all that it holds, as far as cards go. */
function fit(): void {
  menu.value?.hide()
  const needs = (long()?.scrollHeight ?? 0) + head.value + GAP
  report.size(props.card.key, 0, Math.ceil(needs / (ROW + GAP)) - props.card.high)
}
function take(): void {
  menu.value?.hide()
  report.take(props.card.key)
}
const lookAt = (part: Part) =>
  props.card.chart && (report.looked = { ...part, chart: props.card.chart, title: title.value })
</script>

<template>
  <section class="card" :aria-label="title" :class="{ chosen: report.chosen === card.key }">
    <header>
      <h3>{{ title }}</h3>
      <span class="gap" />
      <slot />
      <button
        class="round"
        :aria-label="`More of ${title}`"
        aria-haspopup="menu"
        @click="menu?.toggle($event)"
      >
        <i class="pi pi-ellipsis-h" aria-hidden="true" />
      </button>
      <Popover ref="menu">
        <div class="menu">
          <button v-if="report.mayEdit" class="link" @click="settings">Settings…</button>
          <button v-if="card.kind !== 'text'" class="link" @click="showTable">
            {{ asTable ? 'As a picture' : 'As a table' }}
          </button>
          <template v-if="hasPicture">
            <button class="link" @click="save('PNG')">Save as PNG</button>
            <button class="link" @click="save('SVG')">Save as SVG</button>
          </template>
          <button v-if="card.kind !== 'text'" class="link" @click="save('CSV')">Save as CSV</button>
          <button v-if="report.mayEdit && long()" class="link" @click="fit">As high as what it holds</button>
          <button v-if="report.mayEdit" class="link" @click="take">Take it away</button>
        </div>
      </Popover>
    </header>
    <p v-if="card.kind !== 'text'" class="sentence" :title="[sentence, filter].join(' ')">
      {{ sentence }} <span v-if="filter" class="quiet">{{ filter }}</span>
    </p>
    <p v-if="failure" role="alert" class="failure">{{ failure }}</p>
    <div ref="inside" class="inside">
      <p v-if="lost" role="alert" class="failure">
        What this is about was removed. Choose something else in its settings.
      </p>
      <div
        v-else-if="card.kind === 'text'"
        class="text"
        :style="{ maxHeight: `${height}px` }"
        tabindex="0"
        role="region"
        :aria-label="`${title}, in full`"
      >
        <!-- eslint-disable-next-line vue/no-v-html -- cleaned by markdown() -->
        <div v-html="html" />
      </div>
      <template v-else>
        <div v-show="!asTable">
          <ChartBody
            v-if="card.chart"
            ref="body"
            :chart="card.chart"
            :drawn="drawn"
            :height="height"
            :title="title"
            @look="lookAt"
          />
          <component
            :is="bodies[card.kind as keyof typeof bodies]"
            v-else
            ref="body"
            :card="card"
            :title="title"
            :height="height"
          />
        </div>
        <div
          v-if="asTable"
          class="behind"
          tabindex="0"
          role="region"
          :aria-label="`${title} as a table`"
          :style="{ maxHeight: `${height}px` }"
        >
          <table class="table">
            <thead>
              <tr>
                <th v-for="(c, i) in body?.table?.columns" :key="i" scope="col" :class="{ n: i }">{{ c }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(r, n) in body?.table?.rows" :key="n">
                <td v-for="(c, i) in r" :key="i" :class="{ n: i }">{{ c }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
    </div>
  </section>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  min-width: 0;
  height: 100%;
  padding: 8px 14px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--panel);
  overflow: hidden;
}

.chosen {
  border-color: var(--focus);
  box-shadow: 0 0 0 1px var(--focus);
}

header {
  display: flex;
  gap: 6px;
  align-items: center;
}

h3 {
  margin: 0;
  overflow: hidden;
  font-size: 15px;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.gap {
  flex: 1;
}

.sentence {
  min-height: 20px;
  margin: 0 0 4px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.menu {
  display: grid;
  gap: 6px;
  justify-items: start;
}

.inside {
  flex: 1;
  min-height: 0;
}

.text,
.behind {
  overflow: auto;
}

.text :deep(> div > :first-child) {
  margin-top: 0;
}
</style>
