<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import type { ScreenCard } from '@/api/types'
import { markdown } from '@/ui/markdown'
import type { Told } from '../cards/body'
import ChartBody from '../cards/ChartBody.vue'
import { bodies, useCard } from '../cards/useCard'

/** A card on a screen: what it is called, what it says, its picture. Nothing of it can be clicked. */
const props = defineProps<{ card: ScreenCard; height: number; single: boolean }>()
const { title, lost } = useCard(() => props.card)
const body = useTemplateRef<Told>('body')
const sentence = computed(() => props.card.drawn?.sentence ?? body.value?.sentence ?? '')
/** What is not drawn, as lists and tables, grows on a screen of its own until it fills it, or is well read. */
const inside = useTemplateRef<HTMLElement>('inside')
const largest = computed(() => (props.card.kind === 'capacity' ? 1.15 : 1.7))
const zoom = ref(1)
const drawn = computed(
  () =>
    (!!props.card.chart?.form && !['figure', 'table', 'list'].includes(props.card.chart.form)) ||
    ['odds', 'burn-up', 'burn-down', 'flow'].includes(props.card.kind),
)
watch(
  () => props.card,
  async () => {
    if (!props.single || drawn.value) return
    zoom.value = 1
    await nextTick()
    await nextTick() // what it was told is there, and laid out
    const content = inside.value?.firstElementChild?.scrollHeight ?? 0
    if (content) zoom.value = Math.max(1, Math.min(largest.value, (0.95 * left.value) / content))
  },
  { immediate: true, flush: 'post' },
)
/** What is left for what it draws, in pixels: less its head. */
const left = computed(() => props.height - (props.card.kind === 'text' ? 46 : props.single ? 92 : 70))
</script>

<template>
  <section class="card" :class="{ single }" :aria-label="title">
    <h2>{{ title }}</h2>
    <p v-if="card.kind !== 'text'" class="sentence">{{ sentence }}</p>
    <p v-if="card.failed || lost" role="alert" class="failure">
      {{ card.failed || 'What this is about was removed.' }}
    </p>
    <div v-else ref="inside" :style="{ zoom }">
      <!-- eslint-disable-next-line vue/no-v-html -- cleaned by markdown() -->
      <div v-if="card.kind === 'text'" class="text" v-html="markdown(card.text ?? '')" />
      <ChartBody
        v-else-if="card.chart"
        ref="body"
        :chart="card.chart"
        :drawn="card.drawn"
        :height="left / zoom"
        :title="title"
        quiet
      />
      <component
        :is="bodies[card.kind as keyof typeof bodies]"
        v-else
        ref="body"
        :card="card"
        :told="card"
        :title="title"
        :height="left / zoom"
      />
    </div>
  </section>
</template>

<style scoped>
.card {
  height: 100%;
  padding: 8px 14px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--panel);
  overflow: hidden;
}

h2 {
  margin: 0;
  overflow: hidden;
  font: 600 15px/1.4 var(--heading);
  text-overflow: ellipsis;
  white-space: nowrap;
}

.single h2 {
  font-size: 20px;
}

.sentence {
  display: -webkit-box;
  margin: 0 0 4px;
  overflow: hidden;
  line-height: 20px;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 1;
}

.single .sentence {
  -webkit-line-clamp: 2;
}

.single :deep(.number) {
  font-size: 110px;
}

.text :deep(> :first-child) {
  margin-top: 0;
}
</style>
