<script setup lang="ts">
import { computed } from 'vue'
import type { Item } from '@/api/types'
import { asDate, timeText } from '@/ui/dates'
import ItemPicker from './ItemPicker.vue'
import { useProgram } from './program'
import { hinderedText, testsText } from './signals'

/** How the tests of an item stand, what they wait for and, of a defect, whose tests wait for it. */
const props = defineProps<{ item: Item }>()
const emit = defineEmits<{ jump: [key: string] }>()
const store = useProgram()
const hindered = computed(() => hinderedText(store.itemFacts.get(props.item.key)))
const hinders = computed(() => props.item.hinders ?? [])
const may = computed(() => store.may({ op: 'set', kind: 'item', key: props.item.key, field: 'hinders' }))
const isDefect = computed(() => props.item.kind === 'defect' || hinders.value.length > 0)
const shown = computed(
  () => !!props.item.tests || !!hindered.value || (isDefect.value && (may.value || hinders.value.length > 0)),
)
const keep = (keys: string[]) =>
  void store.setItem(
    props.item,
    'hinders',
    keys.length ? keys : undefined,
    `Whose tests wait for ${props.item.key}`,
  )
</script>

<template>
  <section v-if="shown" class="tests" aria-label="Tests">
    <h3>Tests</h3>
    <p v-if="item.tests">
      {{ testsText(item.tests) }}
      <span class="quiet">since {{ timeText(item.tests.since, asDate(store.todayDay)) }}</span>
      {{ ' ' }}
      <a
        v-if="item.tests.address"
        class="report"
        :href="item.tests.address"
        target="_blank"
        rel="noopener noreferrer"
        >Report</a
      >
    </p>
    <p v-if="hindered" class="caution">{{ hindered[0].toUpperCase() + hindered.slice(1) }}</p>
    <template v-if="isDefect">
      <p class="quiet small">Whose tests wait for this defect</p>
      <div v-for="key in hinders" :key="key" class="entry">
        <button class="link" @click="emit('jump', key)">
          <b>{{ key }}</b> {{ store.items.get(key)?.title }}
        </button>
        <button
          v-if="may"
          class="round"
          :aria-label="`Tests of ${key} do not wait for it`"
          @click="keep(hinders.filter((x) => x !== key))"
        >
          <i class="pi pi-times" aria-hidden="true" />
        </button>
      </div>
      <p v-if="!hinders.length && !may" class="quiet">nothing</p>
      <ItemPicker
        v-if="may"
        label="Add an item whose tests wait"
        :except="[item.key, ...hinders]"
        @pick="keep([...hinders, $event.key])"
      />
    </template>
  </section>
</template>

<style scoped>
.tests {
  display: grid;
  gap: 4px;
}

h3 {
  font-size: 13px;
}

p {
  margin: 0;
}

.report {
  color: inherit;
}

.caution {
  color: var(--caution);
}

.entry {
  display: flex;
  gap: 8px;
  align-items: center;
}

.link {
  flex: 1;
  overflow: hidden;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
