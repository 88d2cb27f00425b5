<script setup lang="ts">
import { useMutationObserver } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import type { ScreenCard } from '@/api/types'
import { markdown } from '@/ui/markdown'
import type { Told } from '../cards/body'
import ChartBody from '../cards/ChartBody.vue'
import { bodies, useCard } from '../cards/useCard'
import { cutAfter } from './layout'

/** A card on a screen: what it is called, what it says, its picture. Nothing of it can be clicked. */
const props = defineProps<{ card: ScreenCard; height: number; single: boolean }>()
const { title, lost } = useCard(() => props.card)
const body = useTemplateRef<Told>('body')
const sentence = computed(() => props.card.drawn?.sentence ?? body.value?.sentence ?? '')
const root = useTemplateRef<HTMLElement>('root')
const inside = useTemplateRef<HTMLElement>('inside')
/** What is not drawn, as lists and tables, grows on a screen of its own until it fills it, or is well read. */
const zoom = ref(1)
const largest = computed(() => (props.card.kind === 'capacity' ? 1.15 : 1.7))
const drawn = computed(
  () =>
    (!!props.card.chart?.form && !['figure', 'table', 'list'].includes(props.card.chart.form)) ||
    ['odds', 'burn-up', 'burn-down', 'flow'].includes(props.card.kind),
)
/** Nobody scrolls here: where the last row ends that is seen whole, and how many do not fit. */
const cut = ref<ReturnType<typeof cutAfter>>()
function measure(): void {
  cut.value = undefined
  if (!root.value || !inside.value || props.card.kind === 'text' || drawn.value) return
  const { top, height } = root.value.getBoundingClientRect()
  const scale = height / root.value.offsetHeight || 1 // the screen is drawn larger than it is laid out
  const end = (e: Element) => (e.getBoundingClientRect().bottom - top) / scale
  const rows = [...inside.value.querySelectorAll<HTMLElement>('li, tbody tr')]
  const more = Number(rows.at(-1)?.dataset.more ?? 0) // it says so itself
  const list = inside.value.firstElementChild // as high as there is room
  const ends = { list: list ? end(list) + 1 : 0, card: root.value.offsetHeight }
  cut.value = cutAfter(rows.slice(0, more ? -1 : undefined).map(end), ends, more)
}
/** Lays it out anew, once what it was told is there. */
async function fit(): Promise<void> {
  zoom.value = 1
  await nextTick()
  const content = inside.value?.firstElementChild?.scrollHeight ?? 0
  if (content && props.single && !drawn.value)
    zoom.value = Math.max(1, Math.min(largest.value, (0.95 * left.value) / content))
  await nextTick()
  measure()
  takeRecords() // that was itself
}
const { takeRecords } = useMutationObserver(inside, fit, {
  childList: true,
  subtree: true,
  characterData: true,
})
watch([() => props.card, () => props.height], fit, { immediate: true, flush: 'post' })
/** What is left for what it draws, in pixels: less its head. */
const left = computed(() => props.height - (props.card.kind === 'text' ? 46 : props.single ? 92 : 70))
</script>

<template>
  <section ref="root" class="card" :class="{ single }" :aria-label="title">
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
    <p v-if="cut" class="more" :style="{ top: `${cut.top}px` }">and {{ cut.more }} more</p>
  </section>
</template>

<style scoped>
.card {
  position: relative;
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

/* It covers what of the next row would be seen. */
.more {
  position: absolute;
  right: 0;
  bottom: 0;
  left: 0;
  margin: 0;
  padding: 0 14px;
  background: var(--panel);
  color: var(--quiet);
  line-height: 22px;
}

.single :deep(.number) {
  font-size: 110px;
}

.text :deep(> :first-child) {
  margin-top: 0;
}
</style>
