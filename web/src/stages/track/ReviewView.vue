<script setup lang="ts">
import { ofLine } from '@/api/inView'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answer, client } from '@/api/client'
import type { UnderWay } from '@/api/types'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { shortDate } from '@/ui/dates'
import { amount, count, sized } from '@/ui/format'
import { markdown } from '@/ui/markdown'
import ActionList from './ActionList.vue'
import BurnDown from './BurnDown.vue'
import { fullText } from './words'

/** A team looks back on an iteration: what became of it, what it noted, what it will do about it. */
const store = useProgram()
const route = useRoute()
const router = useRouter()
const say = (query: Record<string, string | undefined>) =>
  void router.replace({ query: { ...route.query, ...query } })

const teams = computed(() => (store.program.teams ?? []).filter((t) => t.iterations?.length))
const team = computed(() => teams.value.find((t) => t.key === route.query.team) ?? teams.value[0])
/** The closed ones and those that have begun, the latest first. */
const iterations = computed(() =>
  (team.value?.iterations ?? [])
    .filter((it) => it.state === 'closed' || it.state === 'open' || it.start <= store.today)
    .reverse(),
)
const it = computed(
  () =>
    iterations.value.find((x) => x.key === route.query.iteration) ??
    iterations.value.find((x) => x.state === 'closed') ??
    iterations.value[0],
)
const label = computed(() => it.value?.name || it.value?.key || '')
const asked = computed(() => ({ team: team.value?.key ?? '', iteration: it.value?.key ?? '' }))

const found = useAnswer(
  () =>
    store.id && it.value
      ? answer(
          client.GET('/api/v1/programs/{id}/iteration-review', {
            params: { path: { id: store.id }, query: asked.value },
          }),
        )
      : undefined,
  [
    () => store.id,
    () => store.revision,
    () => store.today,
    () => asked.value.team,
    () => asked.value.iteration,
  ],
  { wait: 30, forget: ([, , , ...now], [, , , ...before]) => now.join() !== before.join() },
)
const review = computed(() => found.answer.value)
const under = computed<UnderWay | undefined>(
  () => review.value && { ...review.value, courses: [], likely: [], chances: [] },
)
const figures = computed(() => {
  const r = review.value
  if (!r) return []
  const of = (name: string, s: { items: number; size: number }, sign = '') => ({
    name,
    size: `${s.size ? sign : ''}${sized(s.size, team.value)}`,
    items: count(s.items, 'item'),
  })
  const went = { items: r.removed.items - r.carried.items, size: r.removed.size - r.carried.size }
  return [
    of('at the start', r.start),
    of('came in', r.added, '+'),
    of('taken out', went, '−'),
    { ...of('grown', r.grown, '+'), items: '' },
    { ...of('smaller', r.shrunk, '−'), items: '' },
    of('done', r.done),
    of('carried on', r.carried),
  ]
})
const lists = computed(() => {
  const r = review.value
  return [
    { title: 'Done', keys: r?.finished ?? [] },
    { title: 'Carried on', keys: r?.carriedOn ?? [] },
    { title: 'Came in after the start', keys: r?.cameIn ?? [] },
    { title: 'Taken out', keys: r?.wentOut ?? [] },
  ].filter((l) => l.keys.length)
})
const velocity = computed(() => {
  const v = review.value?.velocity
  if (!v?.of) return ''
  const now = `Measured velocity ${sized(v.after, team.value)}, of ${count(v.of, 'iteration')}`
  return amount(v.before) === amount(v.after)
    ? now
    : `${now}; without this one it was ${sized(v.before, team.value)}`
})

/** What was noted as completed need not be what is in the program: items may have come or gone since. */
const elsewhere = computed(() => {
  const [noted, here] = [it.value?.completed ?? 0, review.value?.done.size ?? 0]
  return amount(noted) === amount(here) ? '' : `, of which ${sized(here, team.value)} stand in the program`
})

const notes = [
  ['wentWell', 'What went well'],
  ['toChange', 'What to change'],
] as const
const may = (field: string) =>
  store.may({ op: 'set', kind: 'iteration', in: asked.value.team, key: asked.value.iteration, field })
async function note(field: 'wentWell' | 'toChange', event: Event): Promise<void> {
  const box = event.target as HTMLTextAreaElement
  const value = box.value.trim()
  if (value === (it.value?.[field] ?? '')) return
  await store.apply(`Review of ${label.value}`, [
    {
      op: 'set',
      kind: 'iteration',
      in: asked.value.team,
      key: asked.value.iteration,
      field,
      value: value || null,
    },
  ])
}
const file = computed(() =>
  ofLine(
    `/api/v1/programs/${store.id}/reports/iteration-review?${new URLSearchParams(asked.value).toString()}`,
  ),
)
const print = () => window.print()
</script>

<template>
  <div class="view">
    <header>
      <select
        class="in"
        aria-label="Of which team"
        :value="team?.key"
        @change="say({ team: ($event.target as HTMLSelectElement).value, iteration: undefined })"
      >
        <option v-for="t in teams" :key="t.key" :value="t.key">{{ t.name }}</option>
      </select>
      <select
        class="in"
        aria-label="Of which iteration"
        :value="it?.key"
        @change="say({ iteration: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="x in iterations" :key="x.key" :value="x.key">{{ x.name || x.key }}</option>
      </select>
      <span class="gap" />
      <a v-if="review" class="chip" :href="file" download>Markdown</a>
      <button v-if="review" class="chip" @click="print">Print</button>
    </header>
    <p v-if="found.failure.value" role="alert" class="failure">{{ found.failure.value }}</p>
    <p v-else-if="!it" class="quiet">No team has an iteration that has begun.</p>
    <p v-else-if="!review" role="status" class="quiet">Reading the journal…</p>
    <article v-else-if="under" :aria-label="`Review of ${label}`">
      <h2>
        {{ team.name }} {{ label }}
        <span class="quiet small">
          {{ shortDate(it.start, store.todayDay) }} – {{ shortDate(it.end, store.todayDay) }},
          {{
            review.closed
              ? `closed ${fullText(review.closed)}`
              : it.state === 'closed'
                ? 'closed'
                : 'not closed yet'
          }}
        </span>
      </h2>
      <p v-if="it.goal">Goal: {{ it.goal }}</p>
      <p>
        <template v-if="it.committed !== undefined">{{ sized(it.committed, team) }} committed</template>
        <template v-if="it.completed !== undefined"
          >, {{ sized(it.completed, team) }} completed{{ elsewhere }}</template
        >
        <template v-if="velocity"> · {{ velocity }}</template>
      </p>
      <dl>
        <div v-for="f in figures" :key="f.name">
          <dt class="quiet small">{{ f.name }}</dt>
          <dd>
            <b>{{ f.size }}</b> <span class="quiet small">{{ f.items }}</span>
          </dd>
        </div>
      </dl>
      <BurnDown :under="under" :team="team" :start="it.start" :end="it.end" />
      <div class="lists">
        <section v-for="l in lists" :key="l.title" :aria-label="l.title">
          <h3>
            {{ l.title }} <span class="quiet small">{{ l.keys.length }}</span>
          </h3>
          <ul>
            <li v-for="key in l.keys" :key="key">
              <RouterLink :to="{ name: 'backlog', params: { id: store.id }, query: { item: key } }"
                ><b>{{ key }}</b> {{ store.items.get(key)?.title }}</RouterLink
              >
              <span class="quiet small">{{ sized(store.items.get(key)?.size, team) }}</span>
            </li>
          </ul>
        </section>
        <section v-if="review.sentBack.length" aria-label="Sent back">
          <h3>Sent back</h3>
          <ul>
            <li v-for="b in review.sentBack" :key="b.item">
              <b>{{ b.item }}</b> {{ store.items.get(b.item)?.title }}
              <span class="quiet small">{{ b.times === 1 ? 'once' : count(b.times, 'time') }}</span>
            </li>
          </ul>
        </section>
      </div>
      <div class="noted">
        <section v-for="[field, title] in notes" :key="field" :aria-label="title">
          <h3>{{ title }}</h3>
          <textarea
            v-if="may(field)"
            v-typing
            class="in"
            rows="4"
            maxlength="10000"
            :aria-label="title"
            placeholder="Markdown is fine"
            :value="it[field] ?? ''"
            @change="note(field, $event)"
          />
          <!-- eslint-disable-next-line vue/no-v-html -- cleaned by markdown() -->
          <div v-if="it[field]" class="prose" :class="{ twin: may(field) }" v-html="markdown(it[field])" />
          <p v-else-if="!may(field)" class="quiet">Nothing was noted.</p>
        </section>
        <section aria-label="Actions">
          <h3>Actions</h3>
          <ActionList :team="asked.team" :iteration="asked.iteration" :earlier="review.earlier" />
        </section>
      </div>
    </article>
  </div>
</template>

<style scoped>
.view {
  padding: 10px 16px 24px;
}

header {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-bottom: 10px;
}

header select {
  width: auto;
  max-width: 260px;
}

li a {
  margin-right: 6px;
}

header a {
  line-height: 26px;
  text-decoration: none;
}

.gap {
  flex: 1;
}

article {
  display: grid;
  gap: 10px;
}

h2,
h3,
p,
dl,
dd {
  margin: 0;
}

h2 {
  font-size: 18px;
}

h3 {
  margin-bottom: 4px;
  font-size: 14px;
}

dl {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 28px;
}

.lists,
.noted {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 14px 32px;
  align-items: start;
}

ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  padding: 2px 0;
}

a {
  color: inherit;
}

textarea {
  width: 100%;
  height: auto;
  padding: 6px 8px;
}

/* On paper the text as it reads stands instead of the field. */
.twin {
  display: none;
}

@media print {
  header,
  textarea {
    display: none;
  }

  .twin {
    display: block;
  }
}
</style>
