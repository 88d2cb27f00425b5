<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import type { BriefSection, ChartAsked } from '@/api/types'
import { useProgram } from '@/line/program'
import { markdown } from '@/ui/markdown'
import ChartSettings from '../ChartSettings.vue'
import BriefBlocks from './BriefBlocks.vue'
import { linked, useBriefs } from './briefs'

/** The sections of a brief, as they read; those of a draft can be moved, left out, and written. */
const store = useProgram()
const briefs = useBriefs()
const titles = computed(() => new Map((briefs.brief?.written.items ?? []).map((i) => [i.key, i.title])))
const html = (text: string) =>
  markdown(
    linked(
      text,
      (key) => titles.value.get(key) ?? store.items.get(key)?.title,
      (key) => `${window.location.origin}/programs/${store.id}/backlog?item=${encodeURIComponent(key)}`,
    ),
  )
const value = (event: Event) => (event.target as HTMLInputElement).value
/** Of a draft all, those left out too; of a published one what it says. */
const shown = computed<BriefSection[]>(() =>
  briefs.draft
    ? briefs.sections
    : (briefs.brief?.written.sections ?? []).map((s) => ({ key: s.key, title: s.title, text: s.text })),
)
const blocks = (key: string) => briefs.told.get(key)?.blocks ?? []
const root = ref<HTMLElement>()
async function move(key: string, by: number): Promise<void> {
  briefs.move(key, by)
  await nextTick()
  root.value?.querySelector<HTMLElement>(`[data-section="${key}"] .${by < 0 ? 'up' : 'down'}`)?.focus()
}
async function write(key: string): Promise<void> {
  briefs.open = briefs.open === key ? '' : key
  await nextTick()
  root.value?.querySelector<HTMLElement>(`[data-section="${key}"] .title`)?.focus()
}
</script>

<template>
  <div ref="root">
    <section
      v-for="(s, i) in shown"
      :key="s.key"
      :data-section="s.key"
      :aria-label="s.title"
      :class="{ out: s.out }"
    >
      <div class="head">
        <h2>{{ s.title }}</h2>
        <div v-if="briefs.draft" class="do">
          <button
            class="link small"
            :aria-expanded="briefs.open === s.key"
            :aria-label="`${briefs.open === s.key ? 'Done' : 'Write'}: ${s.title}`"
            @click="write(s.key)"
          >
            {{ briefs.open === s.key ? 'Done' : 'Write' }}
          </button>
          <button
            class="link small"
            :aria-label="`${s.out ? 'Take in' : 'Leave out'}: ${s.title}`"
            @click="briefs.put(s.key, { out: !s.out })"
          >
            {{ s.out ? 'Take in' : 'Leave out' }}
          </button>
          <button
            class="round up"
            :disabled="i === 0"
            :aria-label="`Move up: ${s.title}`"
            @click="move(s.key, -1)"
          >
            <i class="pi pi-arrow-up" aria-hidden="true" />
          </button>
          <button
            class="round down"
            :disabled="i === shown.length - 1"
            :aria-label="`Move down: ${s.title}`"
            @click="move(s.key, 1)"
          >
            <i class="pi pi-arrow-down" aria-hidden="true" />
          </button>
        </div>
      </div>
      <div v-if="briefs.draft && briefs.open === s.key" class="writing">
        <label class="field"
          ><span class="label">Heading</span>
          <input
            v-typing
            class="in title"
            :value="s.title"
            maxlength="200"
            @change="briefs.put(s.key, { title: value($event) })"
          />
        </label>
        <label class="field"
          ><span class="label">Your words, as Markdown; keys of items become links</span>
          <textarea
            v-typing
            class="in"
            rows="6"
            maxlength="20000"
            :placeholder="s.ask"
            :value="s.text ?? ''"
            @input="briefs.put(s.key, { text: value($event) })"
          />
        </label>
        <ChartSettings
          v-if="s.chart"
          :model-value="s.chart"
          for-all
          :sentence="blocks(s.key)[0]?.drawn?.filter"
          @update:model-value="briefs.put(s.key, { chart: $event as ChartAsked })"
        />
        <div class="buttons">
          <button v-if="s.live" class="plain-button" @click="briefs.writeOver(s.key)">
            Write over what the plan says
          </button>
          <button class="plain-button" @click="briefs.take(s.key)">Take the section away</button>
        </div>
      </div>
      <p v-if="s.out" class="quiet small">Left out of the brief.</p>
      <template v-else>
        <!-- eslint-disable-next-line vue/no-v-html -- cleaned by markdown() -->
        <div v-if="s.text" class="own" v-html="html(s.text)" />
        <BriefBlocks :blocks="blocks(s.key)" :title="s.title" />
      </template>
    </section>
  </div>
</template>

<style scoped>
section {
  margin-top: 20px;
}

.head {
  display: flex;
  gap: 12px;
  align-items: center;
}

h2 {
  flex: 1;
  margin: 0 0 4px;
  font-size: 19px;
}

.do {
  display: flex;
  flex: none;
  gap: 8px;
  align-items: center;
}

.out h2 {
  color: var(--quiet);
  font-weight: 400;
}

.writing {
  display: grid;
  gap: 8px;
  margin: 4px 0 10px;
  padding: 10px 12px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--tint);
}

textarea.in {
  height: auto;
  resize: vertical;
}

.own :deep(p) {
  margin: 0 0 8px;
}

.own :deep(a) {
  color: inherit;
  text-underline-offset: 2px;
}

@media print {
  .do,
  .writing,
  .out {
    display: none;
  }

  section {
    break-inside: auto;
  }

  h2 {
    break-after: avoid;
  }
}
</style>
