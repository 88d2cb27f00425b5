<script setup lang="ts">
import Button from 'primevue/button'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import type { Change, Item } from '@/api/types'
import { useAnswer } from '@/line/useAnswer'
import { shortDate } from '@/ui/dates'
import { count, sized } from '@/ui/format'
import ItemNeeds from '@/line/ItemNeeds.vue'
import { useLevers } from './levers'
import MoveButtons from './MoveButtons.vue'
import { usePlan } from './plan'
import { useProgram } from '@/line/program'

const store = useProgram()
const plan = usePlan()
const levers = useLevers()
const item = computed(() => plan.chosen)
/** What the signed-in account may not change is dimmed. */
const fixed = (field: string) => !store.may({ op: 'set', kind: 'item', key: item.value?.key, field })
const team = computed(() => store.teams.get(item.value?.team ?? ''))
const iteration = computed(() => team.value?.iterations?.find((it) => it.key === item.value?.iteration))
const lacks = computed(() => store.itemFacts.get(item.value?.key ?? '')?.lacks ?? [])
const where = computed(() => {
  if (!item.value) return ''
  const it = iteration.value
  if (!it) return 'unplaced'
  return `${it.name ?? it.key} · ${shortDate(it.start)} – ${shortDate(it.end, store.todayDay)}`
})

/** What is typed stays, whatever others do meanwhile; another item brings its own. */
const title = ref('')
const typing = ref(false)
watch(
  () => [item.value?.key, item.value?.title],
  ([key], old) => {
    if (!typing.value || key !== old?.[0]) title.value = item.value?.title ?? ''
  },
  { immediate: true },
)

async function keepTitle(): Promise<void> {
  typing.value = false
  const now = item.value
  if (!now) return
  const text = title.value.trim()
  if (!text || !(await store.setItem(now, 'title', text, `Rename ${now.key}`))) title.value = now.title
}

const kinds = ['story', 'defect', 'upkeep', 'enabler', 'spike']
/** What the item's release is when it names none of its own. */
const inherited = computed(() => {
  const now = item.value
  const of = store.releases.get(store.itemFacts.get(now?.key ?? '')?.release ?? '')?.name
  if (!now?.release && of) return `${of}, inherited`
  return now?.parent ? 'as what it is part of' : 'no release'
})
/** Gives the item a release, or that of what it is part of, or none whatever that says. */
const setRelease = (now: Item, to: string) =>
  store.apply(`Change the release of ${now.key}`, [
    ...set(now, 'release', to === 'none' ? undefined : to || undefined),
    ...set(now, 'noRelease', to === 'none' || undefined),
  ])
const set = (now: Item, field: keyof Item, value: unknown): Change[] =>
  now[field] === value ? [] : [{ op: 'set', kind: 'item', key: now.key, field, value: value ?? null }]
const chosen = (event: Event) => (event.target as HTMLSelectElement).value

// The reason depends on the whole plan: it is asked for after every edit.
const { answer: why, failure: whyNot } = useAnswer(
  () => (item.value ? store.reason(item.value.key) : undefined),
  [() => item.value?.key, () => store.revision],
  { forget: ([key], [before]) => key !== before },
)

const needs = ref<InstanceType<typeof ItemNeeds>>()
defineExpose({ addNeed: () => needs.value?.focusAdd() })
</script>

<template>
  <section class="panel" data-region aria-label="Selected item">
    <p v-if="!item" class="quiet none">
      Select an item to see why it is where it is, what it needs and what needs it. Press <kbd>?</kbd> for the
      keys.
    </p>
    <template v-else>
      <header>
        <b class="key">{{ item.key }}</b>
        <InputText
          v-model="title"
          class="title"
          aria-label="Title"
          :disabled="fixed('title')"
          maxlength="300"
          @focus="typing = true"
          @blur="keepTitle"
          @keydown.enter="($event.target as HTMLElement).blur()"
          @keydown.escape.stop="((title = item.title), ($event.target as HTMLElement).blur())"
        />
        <span class="quiet where">{{ where }}</span>
      </header>
      <p v-if="plan.selection.length > 1" class="many">
        <b>{{ count(plan.selection.length, 'item') }} selected.</b> Moves apply to all; the facts are of
        {{ item.key }}.
      </p>
      <div class="fields">
        <InputNumber
          :model-value="item.size ?? null"
          aria-label="Size"
          :disabled="fixed('size')"
          :min="0"
          :max-fraction-digits="2"
          placeholder="size"
          class="size"
          @update:model-value="
            (v: number | null) => store.setItem(item!, 'size', v ?? undefined, `Size ${item!.key}`)
          "
        />
        <span class="quiet">{{ sized(item.size, team).replace(/^[\d.]+ ?/, '') }}</span>
        <select
          :value="item.kind"
          aria-label="Kind"
          :disabled="fixed('kind')"
          @change="store.setItem(item, 'kind', chosen($event), `Change the kind of ${item.key}`)"
        >
          <option v-for="kind in kinds" :key="kind">{{ kind }}</option>
        </select>
        <select
          :value="item.release ?? (item.noRelease ? 'none' : '')"
          class="release"
          aria-label="Release"
          :disabled="fixed('release')"
          @change="setRelease(item, chosen($event))"
        >
          <option value="">{{ inherited }}</option>
          <option v-if="item.parent" value="none">no release, whatever it is part of</option>
          <option v-for="r in store.program.releases" :key="r.key" :value="r.key">{{ r.name }}</option>
        </select>
        <span class="moves">
          <MoveButtons :fixed="fixed('iteration')" :placed="!!item.iteration" />
          <Button
            size="small"
            outlined
            icon="pi pi-thumbtack"
            :aria-label="item.pinned ? 'Unpin' : 'Pin'"
            :title="
              item.pinned ? 'Pinned: no draft moves it. Unpin' : 'Pin it where it is: no draft moves it'
            "
            :aria-pressed="!!item.pinned"
            :disabled="fixed('pinned')"
            :severity="item.pinned ? 'warn' : undefined"
            @click="
              store.setItem(
                item,
                'pinned',
                !item.pinned,
                item.pinned ? `Unpin ${item.key}` : `Pin ${item.key}`,
              )
            "
          />
        </span>
      </div>
      <div class="body">
        <p class="why">
          <span class="quiet small">{{ item.iteration ? 'Why here' : 'Why unplaced' }}</span>
          <span
            >{{ why?.text ?? whyNot }}{{ why ? '.' : '' }}
            <span v-if="why?.earlier" class="quiet">{{ why.earlier }}.</span></span
          >
          <span v-if="lacks.length" class="lacks">Not ready: {{ lacks.map((l) => l.text).join(', ') }}.</span>
        </p>
        <ItemNeeds
          ref="needs"
          :item="item"
          mendable
          @jump="(key) => (plan.select(key), plan.reveal(key))"
          @mend="(need) => levers.open({ need: { item: need.item, needs: need.needs } })"
        />
      </div>
    </template>
  </section>
</template>

<style scoped>
.panel {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
  gap: 4px;
  padding: 6px 16px 4px 14px;
  background: var(--paper);
}

.none {
  margin: 12px 0;
  max-width: 48ch;
}

header {
  display: flex;
  align-items: center;
  gap: 8px;
}

.key {
  font: 650 13px var(--heading);
  white-space: nowrap;
}

.title {
  flex: 1;
  min-width: 0;
  padding: 2px 6px;
  border-color: transparent;
  background: transparent;
  font: 650 15px var(--heading);
  text-overflow: ellipsis;
}

.title:hover,
.title:focus {
  border-color: var(--edge);
  background: var(--panel);
}

.where {
  white-space: nowrap;
}

.many {
  margin: 0;
  padding: 2px 8px;
  border-radius: 5px;
  background: var(--tint);
}

.fields {
  display: flex;
  flex-wrap: nowrap;
  align-items: center;
  gap: 6px;
}

.size :deep(input) {
  width: 52px;
  padding: 2px 6px;
}

select {
  height: 26px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--panel);
  color: inherit;
  font: inherit;
}

.release {
  min-width: 60px;
  max-width: 150px;
}

.moves {
  display: flex;
  gap: 4px;
  margin-left: auto;
}

.moves :deep(.p-button) {
  height: 26px;
  padding: 0 8px;
}

.body {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
}

.why {
  display: grid;
  margin: 0 0 4px;
}

.lacks {
  color: var(--caution);
}
</style>
