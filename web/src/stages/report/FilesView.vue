<script setup lang="ts">
import { computed, ref } from 'vue'
import { carry } from '@/api/client'
import { ofLine } from '@/api/inView'
import { useProgram } from '@/line/program'
import { useViews } from '@/views/views'
import DateField from '@/ui/DateField.vue'
import { toDate, toDay } from '@/ui/dates'
import { count } from '@/ui/format'
import { saveFile } from '@/ui/saveFile'
import { useAttempt } from '@/ui/useAttempt'
import DatesFile from './DatesFile.vue'
import { useExports } from './useExports'

/** All that goes out as a file, each with what is in it; of the line in view. */
const store = useProgram()
const views = useViews()
void views.bring()
const { failure, busy, attempt } = useAttempt()

const base = computed(() => `/api/v1/programs/${store.id}`)
const from = ref(toDate(store.todayDay - 28))
const to = ref(toDate(store.todayDay + 84))
const whole = computed(() => !!from.value && !!to.value && from.value <= to.value)
const release = ref(store.program.releases?.[0]?.key ?? '')
const view = ref(0)

interface FileLink {
  name: string
  path: string
  /** Whether it is about the days that are chosen. */
  dated: boolean
  /** It needs days, or something chosen, that are missing. */
  off?: boolean
}
const link = (name: string, path: string, off = false): FileLink => ({
  name,
  path: ofLine(base.value + path),
  dated: path.includes('from='),
  off,
})
interface FileOf {
  key: string
  title: string
  says: string
  links: FileLink[]
}
/** The files, those about days about some days. */
const filesOf = (days: string, whole: boolean): FileOf[] => [
  {
    key: 'document',
    title: 'The program',
    says: 'Everything of the program as one document, which can be imported again.',
    links: [link('JSON', '/document')],
  },
  {
    key: 'plan',
    title: 'The plan',
    says: 'An overview of all iterations with load and capacity, when releases land, a sheet for each team with what stands in its iterations, and charts. Loads and room are formulas.',
    links: [link('XLSX', '/reports/plan')],
  },
  {
    key: 'capacity',
    title: 'Capacity',
    says: 'Available against planned time of the iterations that meet these days: by team, role and person, with a chart for each team.',
    links: [
      link('XLSX', `/reports/capacity?${days}`, !whole),
      link('CSV by team', `/reports/capacity?${days}&by=team&format=csv`, !whole),
      link('CSV by person', `/reports/capacity?${days}&by=person&format=csv`, !whole),
    ],
  },
  {
    key: 'hours',
    title: 'Hours',
    says: 'Capacity, planned and spent hours of these days by person, team, item and activity, every time entry, and a chart for each team.',
    links: [
      link('XLSX', `/reports/hours?${days}`, !whole),
      link('CSV by person', `/reports/hours?${days}&by=person&format=csv`, !whole),
    ],
  },
  {
    key: 'needs',
    title: 'Needs across teams',
    says: 'What teams owe one another: a table, a calendar of the days by which they are due, a graph of items by team, or a picture of who owes whom.',
    links: [
      ['CSV', 'csv'],
      ['iCalendar', 'ics'],
      ['DOT', 'dot'],
      ['Mermaid', 'mermaid'],
      ['GraphML', 'graphml'],
      ['SVG', 'svg'],
    ].map(([name, format]) => link(name, `/reports/needs?format=${format}`)),
  },
  {
    key: 'journal',
    title: 'The journal',
    says: 'Every edit of these days: who, when, why, and each change with what was before.',
    links: [
      link('CSV', `/reports/journal?${days}&format=csv`, !whole),
      link('JSON lines', `/reports/journal?${days}&format=jsonl`, !whole),
    ],
  },
]
const files = computed(() => filesOf(`from=${from.value}&to=${to.value}`, whole.value))

/** Those that one makes again and again: about days, so far before and after the day on which they are made. */
const exports = useExports()
const kept = computed(() =>
  exports.list.value.map((e) => {
    const days = `from=${toDate(store.todayDay - (e.ago ?? 0))}&to=${toDate(store.todayDay + (e.ahead ?? 0))}`
    const of = filesOf(days, true).find((f) => f.key === e.file)
    return { ...e, path: of?.links.find((l) => l.name === e.way)?.path }
  }),
)
function keep(file: FileOf, { name, dated }: FileLink): void {
  const [ago, ahead] = [store.todayDay - toDay(from.value), toDay(to.value) - store.todayDay]
  const when = dated ? `, ${count(ago, 'day')} back to ${count(ahead, 'day')} ahead` : ''
  void exports.add({
    name: `${file.title} as ${name}${when}`,
    file: file.key,
    way: name,
    ...(dated ? { ago, ahead } : {}),
  })
}

/** A view of the backlog is sent to be written, as those of one's own are not known to others. */
async function saveView(format: 'csv' | 'xlsx'): Promise<void> {
  const of = views.all[view.value]
  if (!of) return
  await attempt(async () => {
    const response = await carry(
      `${base.value}/backlog/file`,
      JSON.stringify({ view: of, words: '', format, all: false }),
    )
    saveFile(`${of.name.replace(/[^\p{L}\p{N} -]/gu, '')}.${format}`, await response.blob())
  })
}
</script>

<template>
  <div class="scroll" data-region>
    <div class="days">
      <label class="field"
        ><span class="label">From</span><DateField v-model="from" aria-label="From"
      /></label>
      <label class="field"
        ><span class="label">to</span><DateField v-model="to" :min="from" aria-label="To"
      /></label>
      <span class="quiet small">{{
        whole ? 'for files about days' : 'Choose a day to begin with, and one to end with after it.'
      }}</span>
    </div>
    <p v-if="failure || exports.failure.value" role="alert" class="failure">
      {{ failure || exports.failure.value }}
    </p>
    <ul v-if="kept.length" class="kept" aria-label="Your exports">
      <li v-for="(e, i) in kept" :key="i">
        <a v-if="e.path" class="chip link-chip" :href="e.path" download>{{ e.name }}</a>
        <span v-else class="chip link-chip off">{{ e.name }}</span>
        <button class="round" :aria-label="`Keep ${e.name} no longer`" @click="exports.remove(i)">
          <i class="pi pi-times" aria-hidden="true" />
        </button>
      </li>
    </ul>
    <div class="list">
      <div v-for="f in files" :key="f.key" role="group" :aria-label="f.title">
        <h2>{{ f.title }}</h2>
        <div class="does">
          <p>{{ f.says }}</p>
          <template v-for="l in f.links" :key="l.name">
            <span v-if="l.off" class="chip link-chip off" aria-disabled="true">{{ l.name }}</span>
            <a
              v-else
              class="chip link-chip"
              :href="l.path"
              download
              :aria-label="`${f.title} as ${l.name}`"
              >{{ l.name }}</a
            >
            <button
              v-if="!l.off"
              class="keep"
              :title="`Keep ${f.title} as ${l.name} among your exports`"
              :aria-label="`Keep ${f.title} as ${l.name} among your exports`"
              @click="keep(f, l)"
            >
              <i class="pi pi-bookmark" aria-hidden="true" />
            </button>
          </template>
        </div>
      </div>
      <div role="group" aria-label="A view of the backlog">
        <h2>A view of the backlog</h2>
        <div class="does">
          <p>The items that a view keeps, with its columns, in its order.</p>
          <select v-model="view" class="in" aria-label="View">
            <option v-for="(v, i) in views.all" :key="i" :value="i">{{ v.name }}</option>
          </select>
          <button
            v-for="format in ['xlsx', 'csv'] as const"
            :key="format"
            class="chip"
            :disabled="busy"
            :aria-label="`A view of the backlog as ${format.toUpperCase()}`"
            @click="saveView(format)"
          >
            {{ format.toUpperCase() }}
          </button>
        </div>
      </div>
      <DatesFile />
      <div v-if="store.program.releases?.length" role="group" aria-label="The review of a release">
        <h2>The review of a release</h2>
        <div class="does">
          <p>How its work came about, and where it lands against what was promised.</p>
          <select v-model="release" class="in" aria-label="Release">
            <option v-for="r in store.program.releases" :key="r.key" :value="r.key">{{ r.name }}</option>
          </select>
          <a
            class="chip link-chip"
            :href="ofLine(`${base}/reports/release-review?release=${encodeURIComponent(release)}`)"
            download
            aria-label="The review of a release as Markdown"
            >Markdown</a
          >
        </div>
      </div>
      <div>
        <h2>In their places</h2>
        <div class="does">
          <p>
            Charts as PNG, SVG and CSV: in the menu of each card.
            <RouterLink class="link" :to="{ query: { as: 'briefs' } }">Briefs</RouterLink> as Markdown and
            HTML. Chains of needs as pictures: in
            <RouterLink class="link" :to="{ name: 'plan', params: { id: store.id }, query: { as: 'needs' } }"
              >Plan</RouterLink
            >. Reviews of iterations: in
            <RouterLink
              class="link"
              :to="{ name: 'track', params: { id: store.id }, query: { as: 'review' } }"
              >Track</RouterLink
            >.
          </p>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.scroll {
  flex: 1;
  padding: 12px 16px 32px;
  overflow: auto;
}

.days {
  display: flex;
  gap: 12px;
  align-items: end;
  margin-bottom: 8px;
}

.list {
  max-width: 980px;
}

.kept {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  margin: 0 0 10px;
  padding: 0;
  list-style: none;
}

.kept li {
  display: flex;
  gap: 2px;
  align-items: center;
}

.keep {
  margin-left: -8px;
  padding: 4px;
  border: 0;
  background: none;
  color: var(--quiet);
  cursor: pointer;
}

.keep:hover,
.keep:focus-visible {
  color: var(--ink);
}

.list > div {
  display: grid;
  grid-template-columns: 200px 1fr;
  gap: 4px 20px;
  padding: 10px 0;
  border-top: 1px solid var(--rule);
}

h2 {
  margin: 0;
  font: 600 16px/1.4 var(--heading);
}

.does {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
}

.does p {
  flex-basis: 100%;
  margin: 0;
}

select.in {
  width: auto;
  height: 28px;
}

.off {
  color: var(--quiet);
  cursor: not-allowed;
}
</style>
