<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useProgram } from '@/line/program'
import { keysRest } from '@/ui/keysRest'
import RiskMatrix from './RiskMatrix.vue'
import RiskPanel from './RiskPanel.vue'
import RiskRegister from './RiskRegister.vue'
import RiskResponses from './RiskResponses.vue'
import ScalesDialog from './ScalesDialog.vue'
import { useRisks, type RiskRow } from './risks'

/** What may happen: the register, a matrix of chance and impact, a board by response, and one of them beside it. */
const store = useProgram()
const risks = useRisks()
const route = useRoute()
const router = useRouter()
const shapes = { register: 'Register', matrix: 'Matrix', responses: 'Responses' } as const
type Shape = keyof typeof shapes
const shape = computed<Shape>(() =>
  (route.query.risks as string) in shapes ? (route.query.risks as Shape) : 'register',
)
const show = (as: Shape) =>
  void router.replace({ query: { ...route.query, risks: as === 'register' ? undefined : as } })
// The address holds which one is open, so that a link opens the same.
watch(
  () => route.query.risk,
  (key) => {
    if (typeof key === 'string') risks.cursor = key
  },
  { immediate: true },
)
watch(
  () => risks.cursor,
  (key) => {
    if (key && key !== route.query.risk) void router.replace({ query: { ...route.query, risk: key } })
  },
)
const held = computed(() =>
  risks.rows.some((r) => r.risk.key === risks.cursor) ? risks.cursor : (risks.rows[0]?.risk.key ?? ''),
)

const panel = useTemplateRef<InstanceType<typeof RiskPanel>>('panel')
function key(row: RiskRow, event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey || event.target !== event.currentTarget) return
  const at = risks.rows.indexOf(row)
  const go = (to: number) =>
    risks.focus(risks.rows[Math.min(risks.rows.length - 1, Math.max(0, to))].risk.key)
  const does: Record<string, () => unknown> = {
    ArrowUp: () => (shape.value === 'matrix' ? risks.rate(row, 'impact', 1) : go(at - 1)),
    ArrowDown: () => (shape.value === 'matrix' ? risks.rate(row, 'impact', -1) : go(at + 1)),
    Home: () => go(0),
    End: () => go(risks.rows.length - 1),
    n: () => adding(),
    Enter: () => panel.value?.focus(),
    ...(shape.value === 'matrix' && {
      ArrowLeft: () => risks.rate(row, 'chance', -1),
      ArrowRight: () => risks.rate(row, 'chance', 1),
      PageUp: () => go(at - 1),
      PageDown: () => go(at + 1),
    }),
    ...(shape.value === 'responses' && {
      ArrowLeft: () => risks.respond(row, -1),
      ArrowRight: () => risks.respond(row, 1),
    }),
  }
  const what = does[event.key.length === 1 ? event.key.toLowerCase() : event.key]
  if (!what) return
  event.preventDefault()
  event.stopPropagation()
  void what()
}
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (keysRest(event) || event.ctrlKey || event.metaKey || event.altKey || event.key.toLowerCase() !== 'n')
    return
  event.preventDefault()
  adding()
})

// A new one: what may happen, in a line; the rest is said beside it.
const title = ref<string>()
const field = useTemplateRef<HTMLInputElement>('field')
const mayAdd = computed(() => store.may({ op: 'add', kind: 'risk' }))
function adding(): void {
  if (!mayAdd.value) return
  title.value = ''
  void nextTick(() => field.value?.focus())
}
async function add(): Promise<void> {
  const said = title.value?.trim()
  title.value = undefined
  if (!said) return
  // Who may only watch their own risks watches what they note.
  const every = store.mine.role === 'administrator' || store.mine.role === 'program manager'
  const done = await store.mean({
    do: 'add-risk',
    risk: { key: '', title: said, ...(!every && { owner: store.mine.person }) },
  })
  const made = done?.keys[0]
  if (!made) title.value = said
  else {
    risks.cursor = made
    await risks.settled()
    panel.value?.focus()
  }
}
const scaling = ref(false)
const played = computed(() => risks.rows.some((r) => r.stands.played))
const together = computed(() => risks.gains(risks.all))
const playing = computed(() => store.program.settings.playRisks !== false)
const mayPlay = computed(() => store.may({ op: 'set', kind: 'program', field: 'playRisks' }))
const play = () =>
  store.apply(playing.value ? 'Play without risks' : 'Play risks', [
    { op: 'set', kind: 'program', field: 'playRisks', value: playing.value ? false : null },
  ])
</script>

<template>
  <div class="view">
    <header>
      <button
        v-for="(text, as) in shapes"
        :key="as"
        class="chip"
        :aria-pressed="shape === as"
        @click="show(as)"
      >
        {{ text }}
      </button>
      <label v-if="risks.rows.length" class="check small">
        <input type="checkbox" :checked="playing" :disabled="!mayPlay" @change="play" />
        forecasts play them
      </label>
      <span class="gap" />
      <button
        v-if="store.may({ op: 'set', kind: 'program', field: 'scales' })"
        class="chip"
        @click="scaling = true"
      >
        Scales…
      </button>
      <button v-if="mayAdd" class="chip" @click="adding">New risk (N)</button>
    </header>
    <form v-if="title !== undefined" class="new" @submit.prevent="add">
      <input
        ref="field"
        v-model="title"
        class="in"
        maxlength="300"
        aria-label="What may happen"
        placeholder="What may happen, in a line"
        @keydown.escape="title = undefined"
      />
      <button class="plain-button">Note it</button>
    </form>
    <p v-if="risks.failure" role="alert" class="failure">{{ risks.failure }}</p>
    <p v-if="together.length" :class="{ quiet: risks.asking }">
      Together they cost <b>{{ together.join(' · ') }}</b>.
    </p>
    <p v-if="risks.stood && !risks.rows.length" class="quiet">
      No risk is noted yet. One that says at which odds it brings which work or delay is played in every
      forecast.
    </p>
    <div v-else class="columns" :class="{ alone: !risks.open }">
      <div class="list" data-region="[data-risk][tabindex='0']">
        <RiskMatrix v-if="shape === 'matrix'" :held="held" @key="key" />
        <RiskResponses v-else-if="shape === 'responses'" :held="held" @key="key" />
        <RiskRegister v-else :held="held" @key="key" />
        <p v-if="shape === 'matrix'" class="quiet small">
          ← → rate chance, ↑ ↓ impact; Page Up and Page Down go from one to another.
        </p>
        <p v-else-if="shape === 'responses'" class="quiet small">
          ← → change the response, ↑ ↓ go from one to another.
        </p>
        <p v-else-if="played" class="quiet small">
          What it costs is what would be gained without it, in points of chance and in days, by the plays of
          the forecast above.
        </p>
      </div>
      <RiskPanel v-if="risks.open" ref="panel" :key="risks.open.risk.key" :row="risks.open" data-region />
    </div>
    <ScalesDialog v-if="scaling" @close="scaling = false" />
  </div>
</template>

<style scoped>
.view {
  padding: 10px 16px 24px;
}

header,
.new {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-bottom: 10px;
}

.new .in {
  flex: 1;
}

.gap {
  flex: 1;
}

p {
  margin: 4px 0;
}

.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 380px;
  gap: 20px;
  align-items: start;
}

.columns.alone {
  grid-template-columns: minmax(0, 1fr);
}

.list {
  min-width: 0;
  overflow-x: auto;
}
</style>
