<script setup lang="ts">
import { computed } from 'vue'
import type { CardAbout, PageCard } from '@/api/types'
import { useProgram } from '@/line/program'
import ChartSettings from './ChartSettings.vue'
import SidePanel from '@/ui/SidePanel.vue'
import { useReport } from './report'
import { choiceOf, viewChoices, viewOf } from './viewChoices'

/** The settings of a card, chosen word by word; what is chosen is drawn at once. */
const props = defineProps<{ card: PageCard }>()
const store = useProgram()
const report = useReport()

const words = computed(() => report.vocabulary?.cards.find((c) => c.kind === props.card.kind))
const value = (event: Event) => (event.target as HTMLInputElement).value
const put = (more: Partial<PageCard>) => report.put(props.card.key, more)

/** What the card is about, as one choice: "release:R1". */
const about = computed({
  get: () => {
    const { release, team, item, ...view } = props.card.about ?? {}
    const [kind, key] = Object.entries({ release, team, item }).find(([, key]) => key) ?? []
    return kind ? `${kind}:${key}` : choiceOf(view)
  },
  set: (next) => {
    const [kind, ...key] = next.split(':')
    const picked: CardAbout = kind === 'view' || kind === 'mine' ? viewOf(next) : { [kind]: key.join(':') }
    put({ about: kind ? picked : undefined })
  },
})
const abouts = computed(() => {
  const may = words.value?.about ?? []
  return [
    {
      title: 'Releases',
      of: may.includes('release')
        ? (store.program.releases ?? []).map((r) => [`release:${r.key}`, r.name])
        : [],
    },
    {
      title: 'Teams',
      of: may.includes('team') ? (store.program.teams ?? []).map((t) => [`team:${t.key}`, t.name]) : [],
    },
    {
      title: 'Features and initiatives',
      of: may.includes('item')
        ? (store.program.items ?? [])
            .filter((i) => i.kind === 'feature' || i.kind === 'initiative')
            .map((i) => [`item:${i.key}`, `${i.key} ${i.title}`])
        : [],
    },
    ...(may.includes('view') ? viewChoices(true) : []),
  ].filter((g) => g.of.length)
})
</script>

<template>
  <SidePanel
    label="Card settings"
    :title="words?.title ?? ''"
    closes="Close the settings"
    @close="report.chosen = ''"
  >
    <p class="quiet small">{{ words?.says }}</p>
    <label class="field"
      ><span class="label">Title</span>
      <input
        v-typing
        class="in"
        :value="card.title ?? ''"
        maxlength="120"
        :placeholder="words?.title"
        @change="put({ title: value($event).trim() || undefined })"
      />
    </label>
    <label v-if="abouts.length" class="field"
      ><span class="label">About</span>
      <select v-model="about" class="in">
        <option v-if="!words?.must" value="">everything</option>
        <optgroup v-for="g in abouts" :key="g.title" :label="g.title">
          <option v-for="[key, name] in g.of" :key="key" :value="key">{{ name }}</option>
        </optgroup>
      </select>
    </label>
    <label v-if="card.kind === 'text'" class="field"
      ><span class="label">Text, as Markdown</span>
      <textarea
        v-typing
        class="in"
        rows="12"
        maxlength="20000"
        :value="card.text ?? ''"
        @change="put({ text: value($event) })"
      />
    </label>
    <ChartSettings
      v-if="card.chart"
      :model-value="card.chart"
      :sentence="report.drawnOf(card)?.filter"
      @update:model-value="put({ chart: $event })"
    />
    <div class="buttons">
      <button class="plain-button" @click="report.take(card.key)">Take it away</button>
    </div>
  </SidePanel>
</template>

<style scoped>
.field {
  min-width: 0;
}

textarea.in {
  height: auto;
  resize: vertical;
}
</style>
