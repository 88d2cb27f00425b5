<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { RequestError, answer, client, wordsOf } from '@/api/client'
import type { Summary, Template } from '@/api/types'
import { timeText } from '@/ui/dates'
import { count } from '@/ui/format'
import { useSession } from '@/line/session'

const router = useRouter()
const session = useSession()
const programs = ref<Summary[]>()
const failure = ref('')
const problems = ref<string[]>([])
const name = ref('')
const doomed = ref<Summary>()
const file = ref<HTMLInputElement>()

async function load(): Promise<void> {
  try {
    programs.value = await answer(client.GET('/api/v1/programs'))
    failure.value = ''
  } catch (error) {
    failure.value = wordsOf(error)
  }
}

/** Does something that may fail, and shows what is wrong where it does. */
async function attempt(what: () => Promise<unknown>): Promise<void> {
  problems.value = []
  failure.value = ''
  try {
    await what()
  } catch (error) {
    const details = error instanceof RequestError ? (error.problem?.errors ?? []) : []
    problems.value = details.map((d) => d.message ?? '')
    failure.value = wordsOf(error)
  }
}

const open = (id: number) => router.push({ name: 'plan', params: { id } })

/** What a new program starts from: a template, the set-up of a program, or nothing. */
const templates = ref<Template[]>([])
/** The form waits for what may be started from: a choice that came later would change what one chose. */
const ready = ref(false)
const chosenFrom = ref<string>()
/** Until one chooses, the first template. */
const from = computed({
  get: () => chosenFrom.value ?? (templates.value[0] ? `template:${templates.value[0].key}` : ''),
  set: (value) => (chosenFrom.value = value),
})
const starts = computed(() => [
  ...templates.value.map((t) => ({ value: `template:${t.key}`, label: t.name, says: t.says })),
  ...(programs.value ?? []).map((p) => ({
    value: `set-up:${p.id}`,
    label: `Set-up of ${p.name}`,
    says: 'Its cadences, teams with their people, holidays, rules and patterns; not its iterations, releases and work.',
  })),
  { value: '', label: 'Nothing', says: 'An empty program, set up by hand.' },
])
const start = computed(() => starts.value.find((x) => x.value === from.value))

const create = () =>
  attempt(async () => {
    const [kind, ...rest] = from.value.split(':')
    const key = rest.join(':')
    const { id } = await answer(
      client.POST('/api/v1/programs', {
        body: {
          name: name.value.trim(),
          ...(kind === 'template' ? { template: key } : {}),
          ...(kind === 'set-up' ? { setUpOf: Number(key) } : {}),
        },
      }),
    )
    // Where a template brought the cadences, teams come next.
    await router.push({ name: kind === 'template' ? 'set-up-teams' : 'set-up', params: { id } })
  })

const sample = () =>
  attempt(async () => {
    const { id } = await answer(
      client.POST('/api/v1/programs', { body: { name: 'Beacon Renewal, the sample', sample: true } }),
    )
    await open(id)
  })

const list = async () => (templates.value = await answer(client.GET('/api/v1/templates')))
const kept = computed(() => templates.value.filter((t) => t.kept))
/** The template that waits for a yes before it is removed. */
const asking = ref(0)
const forget = (template: number) =>
  attempt(async () => {
    await answer(client.DELETE('/api/v1/templates/{template}', { params: { path: { template } } }))
    await list()
  })

/** Takes in a document: a program, or a template for programs. */
async function take(document: File | undefined): Promise<void> {
  if (!document) return
  await attempt(async () => {
    const text = await document.text()
    if (/"format"\s*:\s*"jantrel-template"/.test(text.slice(0, 200))) {
      const offer = await answer(
        client.POST('/api/v1/templates', {
          body: text as never,
          bodySerializer: (body) => body as unknown as string,
          headers: { 'Content-Type': 'application/json' },
        }),
      )
      await list()
      from.value = `template:${offer.key}`
      return
    }
    const { id } = await answer(
      client.POST('/api/v1/programs/import', {
        body: text as never,
        bodySerializer: (body) => body as unknown as string,
        headers: { 'Content-Type': 'application/json' },
      }),
    )
    await open(id)
  })
}

function pick(event: Event): void {
  const input = event.target as HTMLInputElement
  const chosen = input.files?.[0]
  void take(chosen).finally(() => (input.value = ''))
}

const over = ref(false)
function drop(event: DragEvent): void {
  over.value = false
  void take(event.dataTransfer?.files[0])
}

const remove = (program: Summary) =>
  attempt(async () => {
    await answer(client.DELETE('/api/v1/programs/{id}', { params: { path: { id: program.id } } }))
    doomed.value = undefined
    await load()
  })

onMounted(async () => {
  await load()
  if (!session.me?.mayCreate) return
  await attempt(list)
  ready.value = true
})
</script>

<template>
  <main class="programs">
    <h1>Programs</h1>
    <div v-if="failure" class="failure" role="alert">
      <p>{{ failure }}</p>
      <ul v-if="problems.length > 1">
        <li v-for="p in problems.slice(0, 30)" :key="p">{{ p }}</li>
        <li v-if="problems.length > 30">and {{ problems.length - 30 }} more</li>
      </ul>
    </div>
    <p v-if="!programs && !failure" role="status">Loading…</p>
    <p v-else-if="programs && !programs.length" class="quiet">
      {{
        session.me?.mayCreate
          ? 'There are none yet. Start one, bring one along, or look at the sample first.'
          : 'You belong to no program yet. An administrator of a program can add you to it.'
      }}
    </p>
    <ul v-else class="list">
      <li v-for="p in programs" :key="p.id">
        <RouterLink :to="{ name: 'plan', params: { id: p.id } }"
          ><b>{{ p.name }}</b></RouterLink
        >
        <span class="quiet">{{ count(p.items, 'item') }} · {{ count(p.revision, 'edit') }}</span>
        <span class="gap" />
        <a :href="`/api/v1/programs/${p.id}/document`" download>Export</a>
        <Button size="small" text label="Delete" @click="doomed = p" />
      </li>
    </ul>
    <template v-if="ready">
      <section class="new" aria-label="Start a program">
        <h2>Start a program</h2>
        <form class="row" @submit.prevent="create">
          <div class="field wide">
            <label for="np-name">Name of a new program</label>
            <InputText id="np-name" v-model="name" v-focus maxlength="200" />
          </div>
          <div class="field">
            <label for="np-from">Start from</label>
            <select id="np-from" v-model="from" class="in">
              <option v-for="x in starts" :key="x.value" :value="x.value">{{ x.label }}</option>
            </select>
          </div>
          <Button type="submit" label="Start" :disabled="!name.trim()" />
        </form>
        <p class="quiet small">{{ start?.says }}</p>
        <p v-if="kept.length" class="label">Templates that are kept</p>
        <ul v-if="kept.length" class="list kept" aria-label="Templates that are kept">
          <li v-for="t in kept" :key="t.kept">
            <span>{{ t.name }}</span>
            <span class="quiet small">{{ t.by }}, {{ timeText(t.madeAt!) }}</span>
            <span class="gap" />
            <a :href="`/api/v1/templates/${t.kept}/document`" download>Export</a>
            <template v-if="t.mine">
              <Button
                v-if="asking === t.kept"
                size="small"
                severity="danger"
                label="Remove for good"
                @click="forget(t.kept!)"
              />
              <Button
                v-else
                size="small"
                text
                label="Remove"
                :aria-label="`Remove the template ${t.name}`"
                @click="asking = t.kept!"
              />
            </template>
          </li>
        </ul>
      </section>
      <section
        :class="['new', 'others', { over }]"
        aria-label="Or begin with"
        @dragover.prevent="over = true"
        @dragleave="over = false"
        @drop.prevent="drop"
      >
        <Button outlined label="Import a program or template" icon="pi pi-upload" @click="file?.click()" />
        <input ref="file" type="file" accept="application/json,.json" hidden @change="pick" />
        <span class="quiet small">or drop it here</span>
        <span class="gap" />
        <Button outlined label="Look at the sample program" icon="pi pi-compass" @click="sample" />
      </section>
    </template>
    <p class="quiet">The HTTP interface is described at <a href="/api-docs.html">/api-docs.html</a>.</p>
    <Dialog
      :visible="!!doomed"
      modal
      header="Delete this program?"
      :style="{ width: '420px' }"
      @update:visible="doomed = undefined"
    >
      <p>
        {{ doomed?.name }} goes with all its items and its journal. This cannot be undone. Export it first to
        keep a copy.
      </p>
      <div class="buttons">
        <Button text label="Keep it" @click="doomed = undefined" />
        <Button severity="danger" label="Delete for good" @click="remove(doomed!)" />
      </div>
    </Dialog>
  </main>
</template>

<style scoped>
.programs {
  width: min(760px, 100%);
  margin: 0 auto;
  padding: 34px 20px;
}

h1 {
  font-size: 26px;
  margin-bottom: 16px;
}

.failure {
  padding: 8px 14px;
  border-left: 4px solid var(--over);
  background: var(--over-soft);
}

.failure p {
  margin: 0;
  white-space: pre-line;
}

.failure ul {
  margin: 6px 0 0;
  padding-left: 18px;
}

.list {
  list-style: none;
  padding: 0;
  border-top: 1px solid var(--rule);
}

.list li {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 10px 4px;
  border-bottom: 1px solid var(--rule);
}

.list b {
  font: 650 16px var(--heading);
}

a {
  color: inherit;
}

.kept {
  margin-top: 8px;
}

.kept li {
  padding: 3px 4px;
}

.gap {
  flex: 1;
}

.new {
  margin-top: 22px;
}

.new h2 {
  margin-bottom: 8px;
  font-size: 17px;
}

.new p {
  margin: 6px 0 0;
}

.new .row {
  display: flex;
  gap: 10px;
  align-items: flex-end;
}

.others {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 12px;
  border: 1px dashed var(--edge);
  border-radius: 8px;
}

.others.over {
  border-color: var(--focus);
  background: var(--tint);
}

.buttons {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
</style>
