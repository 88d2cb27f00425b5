<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { stages } from '@/router'
import { setUpTabs } from '@/stages/setup/tabs'
import { useBacklog } from '@/stages/backlog/backlog'
import { useDraft } from '@/stages/plan/draft'
import { usePlan } from '@/stages/plan/plan'
import { useProgram } from '@/line/program'

const router = useRouter()
/** Find or do: jumps to any item, team, release, view or command by typing. */
const store = useProgram()
const backlog = useBacklog()
const plan = usePlan()
const draft = useDraft()
const text = ref('')
const open = ref(false)
const at = ref(0)
const input = ref<HTMLInputElement>()

interface Hit {
  id: string
  kind: string
  label: string
  go: () => unknown
}
const to = (name: string, query?: Record<string, string>) =>
  router.push({ name, params: { id: store.id }, query })

async function inBacklog(what: () => unknown): Promise<void> {
  await to('backlog')
  await backlog.open()
  what()
}
async function inPlan(what: () => unknown): Promise<void> {
  await to('plan')
  await nextTick()
  what()
}

const commands = computed<Hit[]>(() => {
  const list: [string, () => unknown][] = [
    ...stages.map((s): [string, () => unknown] => [`Go to ${s.title}`, () => to(s.name)]),
    ...setUpTabs.map((t): [string, () => unknown] => [`Set up: ${t.title}`, () => to(`set-up-${t.path}`)]),
    [
      'New item',
      () =>
        inBacklog(() => (backlog.adding = backlog.places.has(backlog.cursor.key) ? backlog.cursor.key : '')),
    ],
    ['Import a spreadsheet or an outline', () => to('backlog-import')],
    ['Where the date falls: what fits by a date', () => inBacklog(() => (backlog.panel = 'fit'))],
    ['Readiness: what ready means', () => inBacklog(() => (backlog.panel = 'ready'))],
    ['Mix of the work', () => inBacklog(() => (backlog.panel = 'mix'))],
    ['Release scope', () => inBacklog(() => (backlog.panel = 'scope'))],
    ['Show what is over capacity', () => inPlan(() => plan.show('over'))],
    ['Show broken needs', () => inPlan(() => plan.show('broken'))],
    ['Undo', () => store.undo()],
    ['Redo', () => store.redo()],
  ]
  if (store.mine.role !== 'viewer' && store.mine.role !== 'member')
    list.push(['Draft a schedule', () => inPlan(() => draft.start())])
  return list.map(([label, go]) => ({ id: `do-${label}`, kind: 'do', label, go }))
})
const things = computed<Hit[]>(() => [
  ...backlog.views.map((v) => ({
    id: `view-${v.key}`,
    kind: 'view',
    label: v.name,
    go: () => inBacklog(() => backlog.show(v)),
  })),
  ...(store.program.teams ?? []).map((t) => ({
    id: `team-${t.key}`,
    kind: 'team',
    label: `${t.key} ${t.name}`,
    go: () =>
      inBacklog(() =>
        backlog.show({
          key: '',
          name: t.name,
          filter: { conditions: [{ field: 'team', is: 'is', values: [t.key] }] },
        }),
      ),
  })),
  ...(store.program.releases ?? []).map((r) => ({
    id: `release-${r.key}`,
    kind: 'release',
    label: `${r.key} ${r.name}`,
    go: () =>
      inBacklog(() =>
        backlog.show({
          key: '',
          name: r.name,
          filter: { conditions: [{ field: 'release', is: 'is', values: [r.key] }] },
        }),
      ),
  })),
])

const MOST = 12
const hits = computed<Hit[]>(() => {
  const words = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  if (!words.length) return commands.value.slice(0, MOST)
  const has = (label: string) => {
    const small = label.toLowerCase()
    return words.every((w) => small.includes(w))
  }
  const found = [...commands.value, ...things.value].filter((h) => has(h.label))
  const items: Hit[] = []
  for (const item of store.program.items ?? []) {
    if (items.length >= MOST) break
    const label = `${item.key} ${item.title}`
    const exact = item.key.toLowerCase() === words.join(' ')
    if (!exact && !has(label)) continue
    const hit = {
      id: `item-${item.key}`,
      kind: item.kind,
      label,
      go: () => to('backlog', { item: item.key }),
    }
    if (exact) found.unshift(hit)
    else items.push(hit)
  }
  return [...found.slice(0, MOST), ...items].slice(0, MOST)
})
watch(text, () => (at.value = 0))

function leave(): void {
  open.value = false
  text.value = ''
  input.value?.blur()
}
async function take(hit: Hit | undefined): Promise<void> {
  if (!hit) return
  leave()
  await hit.go()
}
function key(event: KeyboardEvent): void {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (step) {
    event.preventDefault()
    at.value = (at.value + step + hits.value.length) % Math.max(1, hits.value.length)
  } else if (event.key === 'Enter') {
    event.preventDefault()
    void take(hits.value[at.value])
  } else if (event.key === 'Escape') {
    event.stopPropagation()
    leave()
  }
}
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k' || event.shiftKey || event.altKey)
    return
  event.preventDefault()
  input.value?.focus()
})
</script>

<template>
  <div class="box">
    <input
      ref="input"
      v-model="text"
      role="combobox"
      aria-label="Find or do"
      placeholder="Find or do (Ctrl + K)"
      autocomplete="off"
      aria-controls="find-or-do"
      :aria-expanded="open"
      :aria-activedescendant="open && hits.length ? `hit-${at}` : undefined"
      @focus="open = true"
      @blur="open = false"
      @keydown="key"
    />
    <ul v-show="open" id="find-or-do" role="listbox" aria-label="Found">
      <li
        v-for="(hit, i) in hits"
        :id="`hit-${i}`"
        :key="hit.id"
        role="option"
        :aria-selected="i === at"
        @pointerdown.prevent="take(hit)"
        @pointermove="at = i"
      >
        <span class="kind">{{ hit.kind }}</span> {{ hit.label }}
      </li>
      <li v-if="!hits.length" role="option" aria-disabled="true" aria-selected="false" class="quiet">
        Nothing has these words.
      </li>
    </ul>
  </div>
</template>

<style scoped>
.box {
  position: relative;
}

input {
  width: 196px;
  height: 28px;
  padding: 0 10px;
  border: 1px solid var(--bar-quiet);
  border-radius: 6px;
  background: transparent;
  color: var(--bar-text);
  font: inherit;
}

input::placeholder {
  color: var(--bar-quiet);
}

ul {
  position: absolute;
  top: 32px;
  right: 0;
  z-index: 1200;
  width: 440px;
  margin: 0;
  padding: 5px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
  color: var(--ink);
  box-shadow: var(--shadow);
  list-style: none;
}

li {
  display: flex;
  gap: 8px;
  padding: 5px 8px;
  border-radius: 5px;
  overflow: hidden;
  white-space: nowrap;
  cursor: pointer;
}

li[aria-selected='true'] {
  background: var(--tint);
  box-shadow: inset 0 0 0 1px var(--focus);
}

.kind {
  flex: none;
  width: 62px;
  color: var(--quiet);
  font-size: 12px;
}
</style>
