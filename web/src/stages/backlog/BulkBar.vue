<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { count } from '@/ui/format'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import { choicesOf } from '@/views/choices'
import { entryOf } from './cells'

/** Acts on everything that is selected at once. */
const emit = defineEmits<{ act: [what: 'delete'] }>()
/** What is asked about stands in an address, which should not grow long. */
const MOST_ASKED = 200
const store = useProgram()
const backlog = useBacklog()
const field = ref('release')
const value = ref('')
const rankTo = ref<'top' | 'bottom' | 'above' | 'below'>('top')
const rankKey = ref('')
const fields = computed<[string, string][]>(() => [
  ['release', 'Release'],
  ['team', 'Team'],
  ['iteration', 'Iteration'],
  ['kind', 'Kind'],
  ['state', 'State'],
  ...(store.program.settings.priorities?.length ? ([['priority', 'Priority']] as [string, string][]) : []),
  ['size', 'Size'],
  ['parent', 'Part of'],
  ['assignee', 'Assigned to'],
  ['tag+', 'Add a tag'],
  ['tag-', 'Take a tag away'],
  ['keptOut', 'Kept out'],
])
watch(field, () => (value.value = field.value === 'keptOut' ? 'yes' : ''))

const keys = computed(() => backlog.selection)
/** Iterations are those of the first item's team; others of the selection may not have them. */
const choices = computed(() => choicesOf(field.value, store.program, store.items.get(keys.value[0])))
const may = computed(() =>
  keys.value.every((key) =>
    store.may({ op: 'set', kind: 'item', key, field: field.value.startsWith('tag') ? 'tags' : field.value }),
  ),
)

async function set(): Promise<void> {
  const tag = value.value.trim()
  if (!field.value.startsWith('tag')) {
    await backlog.enter(keys.value, field.value, value.value)
    return
  }
  if (!tag) return
  const cells = keys.value.map((key) => {
    const item = store.items.get(key)!
    const others = (item.tags ?? []).filter((t) => t !== tag)
    return [entryOf('tags', { ...item, tags: field.value === 'tag+' ? [...others, tag] : others }, store)]
  })
  await backlog.edit({ do: 'enter', keys: keys.value, fields: ['tags'], cells })
}

const rank = () => backlog.rank({ to: rankTo.value, key: rankKey.value.trim() })
</script>

<template>
  <div class="bulk" role="toolbar" aria-label="Act on the selection">
    <b>{{ count(keys.length, 'item') }}</b>
    <form class="part" @submit.prevent="set">
      <select v-model="field" aria-label="Field to set">
        <option v-for="[v, label] in fields" :key="v" :value="v">{{ label }}</option>
      </select>
      <select v-if="choices" v-model="value" aria-label="Value to set">
        <option v-for="c in choices" :key="c.value" :value="c.value">{{ c.label }}</option>
      </select>
      <input v-else v-model="value" aria-label="Value to set" maxlength="200" />
      <Button type="submit" size="small" outlined label="Set" :disabled="!may" />
    </form>
    <form class="part" @submit.prevent="rank">
      <select v-model="rankTo" aria-label="Rank to">
        <option value="top">to the top</option>
        <option value="bottom">to the bottom</option>
        <option value="above">above</option>
        <option value="below">below</option>
      </select>
      <input
        v-if="rankTo === 'above' || rankTo === 'below'"
        v-model="rankKey"
        class="key"
        aria-label="Key of the item there"
        placeholder="key"
      />
      <Button type="submit" size="small" outlined label="Rank" />
    </form>
    <Button
      size="small"
      outlined
      severity="danger"
      label="Delete…"
      title="Ctrl + Del"
      @click="emit('act', 'delete')"
    />
    <RouterLink
      v-if="keys.length <= MOST_ASKED"
      class="chip"
      :to="{ name: 'forecast', params: { id: store.id }, query: { of: `items:${keys.join(',')}` } }"
      >When are they done?</RouterLink
    >
    <span class="gap" />
    <button class="chip" title="Esc" @click="backlog.unpick()">Select nothing</button>
  </div>
</template>

<style scoped>
.bulk {
  display: flex;
  flex: none;
  gap: 14px;
  align-items: center;
  padding: 4px 16px;
  background: var(--tint);
  border-top: 1px solid var(--rule);
}

.part {
  display: flex;
  gap: 4px;
}

select,
input {
  height: 26px;
  max-width: 170px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--panel);
  color: inherit;
  font: inherit;
}

.key {
  width: 84px;
}

.gap {
  flex: 1;
}

.bulk :deep(.p-button) {
  height: 26px;
}
</style>
