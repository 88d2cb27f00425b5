<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref, watch } from 'vue'
import { say } from '@/api/intents'
import type { Pattern } from '@/api/types'
import { freeKey } from '@/ui/keys'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'

/** Breaks the chosen item down by a saved pattern, and keeps the patterns. */
const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{ apply: boolean }>()
const store = useProgram()
const backlog = useBacklog()
const may = computed(() => store.may({ op: 'set', kind: 'program', field: 'patterns' }))
const patterns = computed(() => store.program.patterns ?? [])
const key = ref('')
/** The pattern while it is edited; nothing while one is only chosen. */
const draft = ref<Pattern>()
const busy = ref(false)
const item = computed(() => backlog.chosen)
const pattern = computed(() => patterns.value.find((p) => p.key === key.value))

watch(visible, (open) => {
  if (!open) return
  key.value = patterns.value[0]?.key ?? ''
  draft.value = undefined
  if (!patterns.value.length) begin()
})
const kinds = ['story', 'defect', 'upkeep', 'enabler', 'spike'] as const
function begin(from?: Pattern): void {
  draft.value = from
    ? (JSON.parse(JSON.stringify(from)) as Pattern)
    : {
        key: '',
        name: '',
        parts: [
          { title: 'Design: {title}', kind: 'spike' },
          { title: 'Build: {title}', kind: 'story', needs: [0] },
        ],
      }
}
const parts = computed(() => draft.value?.parts ?? [])
function toggle(part: number, before: number): void {
  const of = parts.value[part]
  const needs = of.needs ?? []
  of.needs = needs.includes(before)
    ? needs.filter((n) => n !== before)
    : [...needs, before].sort((a, b) => a - b)
}
function drop(at: number): void {
  parts.value.splice(at, 1)
  for (const p of parts.value) p.needs = p.needs?.filter((n) => n !== at).map((n) => (n > at ? n - 1 : n))
}
async function keep(): Promise<void> {
  const made = draft.value
  if (!made?.name.trim()) return
  const value = {
    ...made,
    key:
      made.key ||
      freeKey(
        made.name,
        patterns.value.map((p) => p.key),
      ),
    parts: parts.value.map((p) => ({ ...p, size: (p.size as unknown) === '' ? undefined : p.size })),
  }
  const next = made.key
    ? patterns.value.map((p) => (p.key === made.key ? value : p))
    : [...patterns.value, value]
  if (!(await save(next, `Pattern ${made.name}`))) return
  key.value = value.key
  draft.value = undefined
}
const save = (next: Pattern[], label: string) =>
  store.apply(label, [{ op: 'set', kind: 'program', field: 'patterns', value: next }])
async function remove(): Promise<void> {
  const gone = pattern.value
  if (
    gone &&
    (await save(
      patterns.value.filter((p) => p !== gone),
      `Remove the pattern ${gone.name}`,
    ))
  )
    key.value = patterns.value[0]?.key ?? ''
}
async function breakDown(): Promise<void> {
  if (!item.value || busy.value) return
  busy.value = true
  const done = await backlog.edit({ do: 'break-down', key: item.value.key, pattern: key.value })
  busy.value = false
  if (done) visible.value = false
}
/** What breaking it down would take from the item, named before it is done. */
const { answer: loses } = useAnswer(
  () =>
    props.apply && visible.value && item.value && pattern.value && !draft.value
      ? say(
          store.id,
          { do: 'break-down', key: item.value.key, pattern: key.value },
          { revision: store.revision, dry: true },
        )
      : undefined,
  [visible, key, draft, () => item.value?.key, () => store.revision],
)
const filled = (title: string) => title.replaceAll('{title}', props.apply ? (item.value?.title ?? '…') : '…')
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    :header="apply ? `Break ${item?.key} down` : 'Patterns'"
    :style="{ width: '760px' }"
  >
    <form v-if="draft" class="form" @submit.prevent="keep">
      <label class="field"
        ><span class="label">Name of the pattern</span
        ><input v-model="draft.name" autofocus class="in" maxlength="100"
      /></label>
      <table class="table">
        <thead>
          <tr>
            <th>Title; {title} is what is broken down</th>
            <th>Kind</th>
            <th>Team</th>
            <th>Size</th>
            <th>Needs</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr v-for="(p, i) in parts" :key="i">
            <td>
              <input v-model="p.title" class="in" :aria-label="`Title of part ${i + 1}`" maxlength="300" />
            </td>
            <td>
              <select v-model="p.kind" class="in" :aria-label="`Kind of part ${i + 1}`">
                <option v-for="k in kinds" :key="k">{{ k }}</option>
              </select>
            </td>
            <td>
              <select v-model="p.team" class="in" :aria-label="`Team of part ${i + 1}`">
                <option :value="undefined">the same</option>
                <option v-for="t in store.program.teams" :key="t.key" :value="t.key">{{ t.name }}</option>
              </select>
            </td>
            <td>
              <input
                v-model="p.size"
                class="in number"
                type="number"
                min="0"
                step="any"
                :aria-label="`Size of part ${i + 1}`"
              />
            </td>
            <td class="needs">
              <label v-for="n in i" :key="n"
                ><input
                  type="checkbox"
                  :checked="p.needs?.includes(n - 1)"
                  :aria-label="`Part ${i + 1} needs part ${n}`"
                  @change="toggle(i, n - 1)"
                />{{ n }}</label
              >
            </td>
            <td>
              <button
                v-if="parts.length > 1"
                type="button"
                class="round"
                :aria-label="`Drop part ${i + 1}`"
                @click="drop(i)"
              >
                <i class="pi pi-times" aria-hidden="true" />
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <div>
        <button type="button" class="chip" @click="parts.push({ title: '{title}', kind: 'story' })">
          One more part
        </button>
      </div>
      <div class="buttons">
        <Button
          text
          type="button"
          label="Cancel"
          @click="patterns.length ? (draft = undefined) : (visible = false)"
        />
        <Button
          type="submit"
          label="Keep the pattern"
          :disabled="!draft.name.trim() || parts.some((p) => !p.title.trim())"
        />
      </div>
    </form>
    <div v-else class="form">
      <label class="field"
        ><span class="label">Pattern</span>
        <select v-model="key" class="in" autofocus>
          <option v-for="p in patterns" :key="p.key" :value="p.key">{{ p.name }}</option>
        </select></label
      >
      <ol class="parts">
        <li v-for="(p, i) in pattern?.parts" :key="i">
          {{ filled(p.title) }}
          <span class="quiet"
            >{{ p.kind }}, {{ p.team ? store.teams.get(p.team)?.name : 'same team'
            }}{{ p.size === undefined ? '' : `, ${p.size}`
            }}{{ p.needs?.length ? `, needs ${p.needs.map((n) => n + 1).join(', ')}` : '' }}</span
          >
        </li>
      </ol>
      <p v-if="apply" class="quiet">
        {{ item?.key }} becomes a feature, if it is none yet, and the parts stand below it.
      </p>
      <ul v-if="apply && loses?.notes.length" class="loses" aria-label="What this takes">
        <li v-for="note in loses.notes" :key="note">{{ note }}.</li>
      </ul>
      <div class="buttons">
        <template v-if="may">
          <Button text type="button" label="New pattern" @click="begin()" />
          <Button text type="button" label="Change it" :disabled="!pattern" @click="begin(pattern)" />
          <Button
            text
            type="button"
            severity="danger"
            label="Remove it"
            :disabled="!pattern"
            @click="remove"
          />
        </template>
        <span class="gap" />
        <Button text type="button" label="Close" @click="visible = false" />
        <Button v-if="apply" label="Break it down" :disabled="!pattern || busy" @click="breakDown" />
      </div>
    </div>
  </Dialog>
</template>

<style scoped>
.parts {
  display: grid;
  gap: 4px;
  margin: 0;
  padding-left: 20px;
}

p {
  margin: 0;
}

.needs {
  white-space: nowrap;
}

.needs label {
  margin-right: 6px;
}
</style>
