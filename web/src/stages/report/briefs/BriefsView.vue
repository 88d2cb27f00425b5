<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { BriefWhole } from '@/api/types'
import { useProgram } from '@/line/program'
import { shortDate } from '@/ui/dates'
import AddMenu from '../AddMenu.vue'
import { useReport } from '../report'
import BriefSections from './BriefSections.vue'
import { useBriefs } from './briefs'
import LinksDialog from './LinksDialog.vue'
import PlanSectionsDialog from './PlanSectionsDialog.vue'

/** What people are told of the plan: letters with live figures in them, which stand once they are published. */
const store = useProgram()
const report = useReport()
const briefs = useBriefs()
const route = useRoute()
const router = useRouter()
const asked = computed(() => Number(route.query.brief) || 0)
watch(
  [() => store.id, asked],
  ([id, brief]) => {
    if (id) void Promise.all([briefs.load(brief), report.bring()])
  },
  { immediate: true },
)
const go = (brief?: number) =>
  router.replace({ query: { as: 'briefs', brief: brief ? String(brief) : undefined } })

const brief = computed(() => briefs.brief)
const shelves = computed(() => {
  const all = briefs.shelf?.briefs ?? []
  return [
    { name: 'Drafts', of: all.filter((b) => !b.number) },
    { name: 'Published', of: all.filter((b) => b.number) },
  ].filter((s) => s.of.length)
})
const abouts = computed(() => [
  { title: '', of: [['', 'the whole program']] },
  { title: 'Releases', of: (store.program.releases ?? []).map((r) => [`release:${r.key}`, r.name]) },
  {
    title: 'Iterations',
    of: (store.program.teams ?? []).flatMap((t) =>
      (t.iterations ?? [])
        .filter((it) => it.end >= store.today)
        .slice(0, 3)
        .map((it) => [`iteration:${t.key}\n${it.key}`, `${it.name ?? it.key} of ${t.name}`]),
    ),
  },
])
const about = ref('')
async function begin(): Promise<void> {
  const [kind, of] = [about.value.split(':')[0], about.value.slice(about.value.indexOf(':') + 1)]
  const [team, iteration] = of.split('\n')
  const next: BriefWhole['about'] =
    kind === 'release' ? { release: of } : kind === 'iteration' ? { team, iteration } : {}
  const id = await briefs.begin(next)
  if (id) await go(id)
}
async function remove(): Promise<void> {
  if (await briefs.remove()) await go()
}
type Added = { live?: NonNullable<BriefWhole['sections'][number]['live']>; title: string }
const kinds = computed(() => [
  { of: { title: 'Heading' } as Added, title: 'Your own words' },
  ...(briefs.shelf?.lives ?? []).map((l) => ({
    of: { live: l.live, title: l.title } as Added,
    title: l.title,
    says: l.says,
  })),
])
function add({ live, title }: Added): void {
  briefs.add({
    title,
    ...(live ? { live } : { text: '' }),
    ...(live === 'figures'
      ? { chart: { of: 'items', split: ['state'], measure: 'number', form: 'bars' } }
      : {}),
  })
}
const linking = ref(false)
const sectioning = ref(false)
const maySection = computed(() => store.may({ op: 'set', kind: 'program', field: 'planSections' }))
const masthead = computed(() => {
  const b = brief.value
  if (!b) return ''
  const when = b.number
    ? `Brief ${b.number}, ${shortDate(b.day, store.todayDay)}`
    : `Draft, as of ${shortDate(store.today, store.todayDay)}`
  return `${b.name}. ${when}, by ${b.author}.`
})
const file = (format: 'md' | 'html') =>
  `/api/v1/programs/${store.id}/reports/brief?brief=${brief.value?.id}&format=${format}`
const print = () => window.print()
</script>

<template>
  <div class="view">
    <aside class="shelf" aria-label="Briefs" data-region>
      <form v-if="briefs.shelf?.mayWrite" class="begin" @submit.prevent="begin">
        <label class="field"
          ><span class="label">A new brief about</span>
          <select v-model="about" class="in">
            <template v-for="g in abouts" :key="g.title">
              <optgroup v-if="g.title && g.of.length" :label="g.title">
                <option v-for="[key, name] in g.of" :key="key" :value="key">{{ name }}</option>
              </optgroup>
              <option v-for="[key, name] in g.title ? [] : g.of" :key="key" :value="key">{{ name }}</option>
            </template>
          </select>
        </label>
        <button class="plain-button main">Begin</button>
      </form>
      <template v-for="s in shelves" :key="s.name">
        <h2>{{ s.name }}</h2>
        <ul :aria-label="s.name">
          <li v-for="b in s.of" :key="b.id">
            <RouterLink
              :to="{ query: { as: 'briefs', brief: b.id } }"
              :aria-current="b.id === brief?.id ? 'page' : undefined"
            >
              <template v-if="b.number">{{ b.number }} · </template>{{ b.title }}
            </RouterLink>
            <span class="quiet small"
              >{{ b.number ? shortDate(b.day, store.todayDay) : 'draft' }}, {{ b.author }}</span
            >
          </li>
        </ul>
      </template>
      <p v-if="briefs.shelf && !briefs.shelf.briefs.length" class="quiet">
        {{ briefs.shelf.mayWrite ? 'No brief was written yet: begin one.' : 'No brief was published yet.' }}
      </p>
      <button v-if="maySection" class="link small" @click="sectioning = true">
        Sections of every iteration plan…
      </button>
    </aside>
    <div class="scroll" data-region>
      <p v-if="briefs.failure" role="alert" class="failure">{{ briefs.failure }}</p>
      <p v-else-if="asked && !brief" role="status" class="quiet">Reading…</p>
      <article v-if="brief" class="letter" :aria-label="brief.title">
        <div class="tools">
          <template v-if="briefs.draft">
            <button class="chip main" :disabled="briefs.saving" @click="briefs.publish()">Publish</button>
            <AddMenu text="Add a section" label="Kinds of sections" :kinds="kinds" @add="add" />
            <button class="chip" @click="remove">Remove the draft</button>
          </template>
          <button v-else-if="briefs.shelf?.mayWrite" class="chip" @click="linking = true">Links…</button>
          <span class="gap" />
          <span class="small quiet" role="status">{{ briefs.saving ? 'Keeping…' : '' }}</span>
          <a class="chip link-chip" :href="file('md')" download>Markdown</a>
          <a class="chip link-chip" :href="file('html')" download>HTML</a>
          <button class="chip" @click="print">Print</button>
        </div>
        <input
          v-if="briefs.draft"
          v-model="briefs.title"
          class="name"
          aria-label="Title of the brief"
          maxlength="200"
          @input="briefs.touched()"
        />
        <h1 v-else>{{ brief.title }}</h1>
        <p class="quiet">{{ masthead }}</p>
        <p v-if="briefs.draft && brief.lacks.length" role="status" class="lacks">
          Still to be written: {{ brief.lacks.join(', ') }}.
        </p>
        <BriefSections />
      </article>
    </div>
    <PlanSectionsDialog v-if="sectioning" @close="sectioning = false" />
    <LinksDialog v-if="linking" @close="linking = false" />
  </div>
</template>

<style scoped>
.lacks {
  color: var(--caution);
}

.view {
  display: flex;
  flex: 1;
  min-height: 0;
}

.shelf {
  flex: none;
  width: 250px;
  padding: 12px 16px;
  border-right: 1px solid var(--rule);
  overflow: auto;
}

.begin {
  display: grid;
  gap: 6px;
  justify-items: start;
}

.begin .field {
  width: 100%;
}

.shelf h2 {
  margin: 14px 0 4px;
  font-size: 15px;
}

.shelf ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

.shelf li {
  display: grid;
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}

.shelf a {
  color: inherit;
  text-underline-offset: 2px;
}

.shelf a[aria-current] {
  font-weight: 600;
}

.scroll {
  flex: 1;
  min-width: 0;
  padding: 14px 20px 40px;
  overflow: auto;
}

.letter {
  max-width: 780px;
  margin: 0 auto;
  padding: 16px 36px 32px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--panel);
}

.tools {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-bottom: 14px;
}

.gap {
  flex: 1;
}

h1,
.name {
  width: 100%;
  margin: 0;
  font: 600 28px/1.2 var(--heading);
}

.name {
  border: 1px solid transparent;
  border-radius: 6px;
  background: none;
  color: inherit;
}

.name:hover,
.name:focus {
  border-color: var(--edge);
}

.letter > p {
  margin: 2px 0 0;
}

@media print {
  .shelf,
  .tools {
    display: none;
  }

  .view,
  .scroll {
    display: block;
    padding: 0;
    overflow: visible;
  }

  .letter {
    max-width: none;
    padding: 0;
    border: 0;
    background: none;
  }
}
</style>
