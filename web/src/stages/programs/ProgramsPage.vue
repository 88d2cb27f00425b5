<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { RequestError, answer, client, wordsOf } from '@/api/client'
import type { Summary } from '@/api/types'
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

const create = () =>
  attempt(async () => {
    const { id } = await answer(client.POST('/api/v1/programs', { body: { name: name.value.trim() } }))
    await router.push({ name: 'set-up', params: { id } })
  })

const pick = (event: Event) =>
  attempt(async () => {
    const input = event.target as HTMLInputElement
    const text = await input.files?.[0]?.text()
    input.value = ''
    if (text === undefined) return
    const { id } = await answer(
      client.POST('/api/v1/programs/import', {
        body: text as never,
        bodySerializer: (body) => body as unknown as string,
        headers: { 'Content-Type': 'application/json' },
      }),
    )
    await open(id)
  })

const remove = (program: Summary) =>
  attempt(async () => {
    await answer(client.DELETE('/api/v1/programs/{id}', { params: { path: { id: program.id } } }))
    doomed.value = undefined
    await load()
  })

onMounted(load)
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
          ? 'There are none yet. Import a program document, or start an empty one.'
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
    <div v-if="session.me?.mayCreate" class="new">
      <Button label="Import a program document" icon="pi pi-upload" @click="file?.click()" />
      <input ref="file" type="file" accept="application/json,.json" hidden @change="pick" />
      <form @submit.prevent="create">
        <InputText
          v-model="name"
          v-focus
          placeholder="Name of a new program"
          aria-label="Name of a new program"
          maxlength="200"
        />
        <Button type="submit" outlined label="Start an empty one" :disabled="!name.trim()" />
      </form>
    </div>
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

.gap {
  flex: 1;
}

.new {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin: 20px 0;
}

.new form {
  display: flex;
  gap: 6px;
}

.buttons {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
</style>
