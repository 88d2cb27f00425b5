<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, ref, watch } from 'vue'
import type { Change, Phase, Release, ReleaseDocument } from '@/api/types'
import { inPercent } from '@/ui/format'
import { freeKey } from '@/ui/keys'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import MoveByDates, { type Moved } from '@/line/MoveByDates.vue'
import DocumentList from './DocumentList.vue'
import DateField from '@/ui/DateField.vue'
import { stillTyped, useDraft } from '@/line/useDraft'
import DraftLine from '@/ui/DraftLine.vue'

const props = defineProps<{ release: Release }>()
const emit = defineEmits<{ gone: [] }>()
const store = useProgram()
const proposals = useProposals()
const may = computed(() => store.may({ op: 'set', kind: 'release', key: props.release.key }))
const form = reactive({ name: '', start: '', due: '', growth: '' as number | '', description: '' })
const phases = ref<Phase[]>([])
const template = ref('')
const templateName = ref('')

/** A share in percent; empty where there is none. */
const percentOf = (share: number | undefined) => (share === undefined ? '' : inPercent(share))

/** What stands in the form of a release of which nothing was changed. */
const formOf = (r: Release) => ({
  name: r.name,
  start: r.start ?? '',
  due: r.due ?? '',
  growth: percentOf(r.growth),
  description: r.description ?? '',
  phases: (r.phases ?? []).map((p) => ({ ...p })),
})
const read = () => ({ ...form, phases: phases.value })
function write({ phases: all, ...rest }: ReturnType<typeof formOf>): void {
  Object.assign(form, rest)
  phases.value = all
}
watch(
  () => props.release,
  (now, before) => {
    const is = formOf(now)
    write(before?.key === now.key ? stillTyped(formOf(before), is, read()) : is)
  },
  { immediate: true },
)
const draft = useDraft({
  name: () => `release ${props.release.key}`,
  read,
  start: () => formOf(props.release),
  write,
})

/** What differs from the release as it is. */
const changes = computed<Change[]>(() => {
  const r = props.release
  const set = (field: string, value: unknown): Change => ({
    op: 'set',
    kind: 'release',
    key: r.key,
    field,
    value,
  })
  const list: Change[] = []
  if (form.name.trim() !== r.name) list.push(set('name', form.name.trim()))
  if (form.start !== (r.start ?? '')) list.push(set('start', form.start || null))
  if (form.due !== (r.due ?? '')) list.push(set('due', form.due || null))
  if (form.growth !== percentOf(r.growth))
    list.push(set('growth', form.growth === '' ? null : form.growth / 100))
  if (form.description !== (r.description ?? '')) list.push(set('description', form.description))
  if (JSON.stringify(phases.value) !== JSON.stringify(r.phases ?? [])) list.push(set('phases', phases.value))
  return list
})
async function save(): Promise<boolean> {
  const done = await store.apply(`Release ${form.name.trim()}`, changes.value)
  if (done) draft.saved()
  return done
}

function addPhase(): void {
  const last = phases.value[phases.value.length - 1]
  const start = last?.end ?? (form.start || store.today)
  const key = freeKey(
    'phase',
    phases.value.map((p) => p.key),
  )
  phases.value.push({ key, name: '', start, end: form.due > start ? form.due : start })
}

const swap = (i: number) => phases.value.splice(i - 1, 2, phases.value[i], phases.value[i - 1])

const templates = computed(() => store.program.phaseTemplates ?? [])

/** Keeps names and lengths of the phases for the next release, as they are saved. */
async function saveTemplate(): Promise<void> {
  const name = templateName.value.trim()
  if (changes.value.length && !(await save())) return
  if (await proposals.make({ do: 'keep-template', key: props.release.key, name })) templateName.value = ''
}

const setDocuments = (documents: ReleaseDocument[]) =>
  store.apply(`Documents of ${props.release.name}`, [
    { op: 'set', kind: 'release', key: props.release.key, field: 'documents', value: documents },
  ])
/** Which phase is to move; empty: all of the release. */
const part = ref('')
const move = (by: Moved) =>
  proposals.propose({ do: 'move-release', key: props.release.key, phase: part.value || undefined, ...by })
const remove = () =>
  proposals.propose(
    { do: 'remove', ref: { kind: 'release', key: props.release.key } },
    { agreed: () => emit('gone') },
  )
</script>

<template>
  <section class="panel" :aria-label="release.name">
    <form class="form" @submit.prevent="save">
      <DraftLine :draft="draft" />
      <div class="row">
        <div class="field wide">
          <label for="r-name">Name</label>
          <input id="r-name" v-model="form.name" class="in" maxlength="120" required :disabled="!may" />
        </div>
        <div class="field">
          <label for="r-start">Starts</label>
          <DateField id="r-start" v-model="form.start" :disabled="!may" />
        </div>
        <div class="field">
          <label for="r-due">Due</label>
          <DateField id="r-due" v-model="form.due" :disabled="!may" />
        </div>
        <div class="field">
          <label for="r-growth">Grows, % an iteration</label>
          <input
            id="r-growth"
            v-model="form.growth"
            class="in growth"
            type="number"
            min="0"
            max="100"
            step="any"
            title="By which share of its whole size scope is taken to grow each iteration"
            :placeholder="String(percentOf(store.program.settings.growth ?? 0))"
            :disabled="!may"
          />
        </div>
      </div>
      <div class="field">
        <label for="r-text">Description</label>
        <textarea id="r-text" v-model="form.description" class="in" rows="2" :disabled="!may" />
      </div>
      <div class="heading">
        <h2>Phases</h2>
        <Button
          v-if="may"
          size="small"
          text
          type="button"
          icon="pi pi-plus"
          label="Add a phase"
          @click="addPhase"
        />
      </div>
      <p v-if="!phases.length" class="quiet">No phases. A release may have none.</p>
      <div v-for="(p, i) in phases" :key="p.key" class="row phase">
        <input
          v-model="p.name"
          class="in name"
          :aria-label="`Name of phase ${i + 1}`"
          required
          :disabled="!may"
        />
        <DateField v-model="p.start" :aria-label="`First day of ${p.name}`" required :disabled="!may" />
        <span class="quiet">to</span>
        <DateField v-model="p.end" :aria-label="`Last day of ${p.name}`" required :disabled="!may" />
        <template v-if="may">
          <button
            type="button"
            class="round"
            :disabled="!i"
            :aria-label="`${p.name}: earlier in the order`"
            @click="swap(i)"
          >
            <i class="pi pi-arrow-up" aria-hidden="true" />
          </button>
          <button type="button" class="round" :aria-label="`Remove ${p.name}`" @click="phases.splice(i, 1)">
            <i class="pi pi-times" aria-hidden="true" />
          </button>
        </template>
      </div>
      <div v-if="may" class="buttons">
        <Button text type="button" label="Remove the release…" @click="remove" />
        <span class="gap" />
        <Button
          outlined
          type="button"
          label="Fit to its phases and items…"
          :disabled="!!changes.length"
          @click="proposals.propose({ do: 'fit-release', key: release.key })"
        />
        <Button
          outlined
          type="button"
          label="See what it does…"
          :disabled="!changes.length"
          @click="proposals.propose({ do: 'make', changes })"
        />
        <Button type="submit" label="Keep" :disabled="!changes.length" />
      </div>
    </form>
    <div v-if="may" class="row templates">
      <div class="field">
        <label for="r-template">Phases from a template</label>
        <select id="r-template" v-model="template" class="in">
          <option value="">choose one</option>
          <option v-for="t in templates" :key="t.key" :value="t.key">{{ t.name }}</option>
        </select>
      </div>
      <Button
        outlined
        size="small"
        label="Use it…"
        :disabled="!template"
        @click="proposals.propose({ do: 'lay-phases', key: release.key, template })"
      />
      <form v-if="release.phases?.length" class="row" @submit.prevent="saveTemplate">
        <div class="field">
          <label for="r-save">Save these phases as a template</label>
          <input id="r-save" v-model="templateName" class="in" placeholder="name" maxlength="80" required />
        </div>
        <Button outlined size="small" type="submit" label="Save" />
      </form>
    </div>
    <details v-if="may" class="moving">
      <summary>Move by dates, with what is placed of it</summary>
      <label class="field what"
        ><span>What</span>
        <select v-model="part" class="in" aria-label="What to move">
          <option value="">all of {{ release.name }}</option>
          <option v-for="p in release.phases ?? []" :key="p.key" :value="p.key">{{ p.name }}</option>
        </select></label
      >
      <MoveByDates @show="move"
        >Its dates move, and {{ part ? 'what starts in the phase' : 'what is placed of it' }} goes along, each
        item to where its team has room and its needs hold; you are asked.</MoveByDates
      >
    </details>
    <DocumentList :documents="release.documents ?? []" :may="may" @change="setDocuments" />
  </section>
</template>

<style scoped>
.growth {
  width: 130px;
}

.panel {
  overflow: auto;
  padding: 16px 24px;
  max-width: 860px;
}

.moving {
  margin: 10px 0;
}

.moving summary {
  margin-bottom: 8px;
  cursor: pointer;
}

.what {
  width: 260px;
  margin-bottom: 8px;
}

.heading {
  display: flex;
  align-items: center;
  gap: 10px;
}

.phase {
  align-items: center;
}

.name {
  width: 220px;
}

.templates {
  margin: 10px 0 18px;
  gap: 10px 14px;
}

p {
  margin: 0;
}
</style>
