<script setup lang="ts">
import Popover from 'primevue/popover'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { CardWords, ChartAsked, PageCard } from '@/api/types'
import { useProgram } from '@/line/program'
import { timeText } from '@/ui/dates'
import { useViews } from '@/views/views'
import AddMenu from './AddMenu.vue'
import BehindPanel from './BehindPanel.vue'
import BriefsView from './briefs/BriefsView.vue'
import CardSettings from './CardSettings.vue'
import FilesView from './FilesView.vue'
import PageGrid from './PageGrid.vue'
import { useReport } from './report'
import ScreensDialog from './screen/ScreensDialog.vue'
import ShareDialog from './ShareDialog.vue'
import WorkingView from './WorkingView.vue'

/** Pages of cards: charts of one's own, and what other stages know, side by side. */
const store = useProgram()
const report = useReport()
void useViews().bring()
const route = useRoute()
const router = useRouter()
const text = (key: string): string =>
  typeof route.query[key] === 'string' ? (route.query[key] as string) : ''

/** Briefs are read and written, files are chosen, or a page of cards is shown. */
const written = computed(() => text('as') === 'briefs')
const filed = computed(() => text('as') === 'files')
const working = computed(() => text('as') === 'working')
/** Whether a page of cards is shown. */
const paged = computed(() => !written.value && !filed.value && !working.value)
/** A chart that another stage asks for comes in the address. */
function asked(): ChartAsked | undefined {
  try {
    return text('chart') ? (JSON.parse(text('chart')) as ChartAsked) : undefined
  } catch {
    return undefined
  }
}
watch(
  [() => store.id, () => text('page'), () => text('chart'), paged],
  ([id, page, chart, shown]) => {
    if (id && shown && (page !== report.page.of || chart || report.program !== id))
      void report.open(page, asked())
  },
  { immediate: true },
)
const go = (page: string) => router.replace({ query: { page: page || undefined } })
const choose = (event: Event) => void go((event.target as HTMLSelectElement).value)
const mine = computed(() => report.shelf?.pages.filter((p) => p.mine) ?? [])
const others = computed(() => report.shelf?.pages.filter((p) => !p.mine) ?? [])
const head = computed(() => report.page.head)
const card = computed(() => report.page.cards.find((c) => c.key === report.chosen))

async function keep(anew = false): Promise<void> {
  if (await report.keep({ anew })) await go(report.page.of)
}
async function remove(): Promise<void> {
  more.value?.hide()
  if (await report.remove()) await go('')
}
function rename(event: Event): void {
  report.page.name = (event.target as HTMLInputElement).value.trim() || report.page.name
  report.touched()
}
const more = useTemplateRef<InstanceType<typeof Popover>>('more')
const sharing = ref(false)
const screening = ref(false)
/** Whether one may let others see a page without an account. */
const mayShow = computed(() => store.may({ kind: 'program', op: 'set', field: 'briefs' }))
const kinds = computed(() =>
  (report.vocabulary?.cards ?? []).map((k) => ({ of: k, title: k.title, says: k.says })),
)
function add(kind: CardWords): void {
  const release = store.program.releases?.[0]?.key
  const first = kind.must ? (release ? { release } : { team: store.program.teams?.[0]?.key }) : undefined
  const chart: ChartAsked = { of: 'items', split: ['state'], measure: 'number', form: 'bars' }
  const next: Omit<PageCard, 'key'> = { kind: kind.kind, wide: 6, high: kind.kind === 'text' ? 1 : 2 }
  if (kind.kind === 'chart') next.chart = chart
  if (kind.kind === 'text') next.text = 'Write here.'
  if (first) next.about = first
  report.add(next)
}
/** How fresh it is: nothing that is of before is shown as if it were of now. */
const stamp = computed(() => {
  const { answer, asking, failure } = report.drawn
  if (!store.connected) return { old: true, text: 'The server does not answer: this is of before' }
  if (failure) return { old: true, text: failure }
  if (asking) return { old: true, text: 'Counting…' }
  return {
    old: false,
    text: answer ? `As of ${timeText(answer.at)}, revision ${answer.revision}` : `Revision ${store.revision}`,
  }
})
const print = () => window.print()
</script>

<template>
  <main class="report" aria-label="Report">
    <div class="tools" data-region>
      <RouterLink class="chip link-chip" :to="{ query: {} }" :aria-current="paged ? 'page' : undefined"
        >Pages</RouterLink
      >
      <RouterLink
        class="chip link-chip"
        :to="{ query: { as: 'briefs' } }"
        :aria-current="written ? 'page' : undefined"
        >Briefs</RouterLink
      >
      <RouterLink
        class="chip link-chip"
        :to="{ query: { as: 'files' } }"
        :aria-current="filed ? 'page' : undefined"
        >Files</RouterLink
      >
      <RouterLink
        class="chip link-chip"
        :to="{ query: { as: 'working' } }"
        :aria-current="working ? 'page' : undefined"
        >Way of working</RouterLink
      >
      <template v-if="paged">
        <select class="chip" aria-label="Page" :value="report.page.of" @change="choose">
          <option v-if="report.page.of === 'new'" value="new">{{ report.page.name }}</option>
          <optgroup v-if="mine.length" label="Yours">
            <option v-for="p in mine" :key="p.id" :value="String(p.id)">{{ p.name }}</option>
          </optgroup>
          <optgroup v-if="others.length" label="Shared with you">
            <option v-for="p in others" :key="p.id" :value="String(p.id)">
              {{ p.name }}, {{ p.owner }}’s
            </option>
          </optgroup>
          <optgroup label="Ready-made">
            <option v-for="r in report.shelf?.ready" :key="r.key" :value="`ready:${r.key}`">
              {{ r.name }}
            </option>
          </optgroup>
        </select>
        <button class="chip" @click="go('new')">New page</button>
        <template v-if="report.mayEdit">
          <AddMenu text="Add a card" label="Kinds of cards" :kinds="kinds" @add="add" />
          <button class="chip" :aria-pressed="report.arranging" @click="report.arranging = !report.arranging">
            Arrange
          </button>
        </template>
        <button
          v-if="report.page.of === 'new'"
          class="chip main"
          :disabled="!report.page.cards.length"
          @click="keep()"
        >
          Keep it
        </button>
        <button v-else-if="!head" class="chip" @click="keep(true)">Make it mine</button>
        <button v-if="head?.mine" class="chip" @click="sharing = true">
          {{ head.shared ? 'Shared…' : 'Share…' }}
        </button>
        <button v-if="report.gone" class="chip" @click="report.putBack()">Put the card back</button>
        <span class="gap" />
        <span class="small" role="status" :class="stamp.old ? 'old' : 'quiet'">{{
          report.saving ? 'Keeping…' : stamp.text
        }}</span>
        <button class="round" aria-label="More" aria-haspopup="menu" @click="more?.toggle($event)">
          <i class="pi pi-ellipsis-v" aria-hidden="true" />
        </button>
        <Popover ref="more">
          <div class="menu">
            <button class="link" @click="print">Print…</button>
            <button v-if="head" class="link" @click="(more?.hide(), keep(true))">Make a copy</button>
            <button v-if="head && mayShow" class="link" @click="(more?.hide(), (screening = true))">
              Screens for a wall…
            </button>
            <button v-if="head?.mine" class="link" @click="remove">Remove the page</button>
          </div>
        </Popover>
      </template>
    </div>
    <BriefsView v-if="written" />
    <FilesView v-if="filed" />
    <WorkingView v-if="working" />
    <p v-if="paged && report.failure" role="alert" class="failure">{{ report.failure }}</p>
    <div v-if="paged" class="body">
      <div class="scroll" data-region>
        <header class="head">
          <input
            v-if="report.mayEdit"
            v-typing
            class="name"
            aria-label="Name of the page"
            :value="report.page.name"
            maxlength="120"
            @change="rename"
          />
          <h1 v-else>{{ report.page.name }}</h1>
          <p v-if="report.page.note" class="quiet">{{ report.page.note }}</p>
        </header>
        <PageGrid />
        <p v-if="!report.page.cards.length && report.shelf" class="quiet">
          There is nothing on this page yet: add a card.
        </p>
      </div>
      <CardSettings v-if="card" :key="card.key" :card="card" />
      <BehindPanel v-else-if="report.looked" />
    </div>
    <ShareDialog v-if="sharing" @close="sharing = false" />
    <ScreensDialog v-if="screening" @close="screening = false" />
  </main>
</template>

<style scoped>
.report {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}

.tools {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 6px 16px;
  border-bottom: 1px solid var(--rule);
}

.tools select {
  max-width: 300px;
}

.gap {
  flex: 1;
}

.old {
  color: var(--caution);
}

.body {
  display: flex;
  flex: 1;
  min-height: 0;
}

.scroll {
  flex: 1;
  min-width: 0;
  padding: 10px 16px 24px;
  overflow: auto;
}

.head {
  display: flex;
  gap: 12px;
  align-items: baseline;
  margin-bottom: 8px;
}

.head h1,
.name {
  margin: 0;
  font: 600 22px/1.3 var(--heading);
}

.name {
  width: 340px;
  border: 1px solid transparent;
  border-radius: 6px;
  background: none;
  color: inherit;
}

.name:hover,
.name:focus {
  border-color: var(--edge);
  background: var(--panel);
}

.head p {
  margin: 0;
}

.menu {
  display: grid;
  gap: 6px;
  justify-items: start;
}
</style>
