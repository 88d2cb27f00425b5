<script setup lang="ts">
import { computed, ref } from 'vue'
import { usePointerDrag } from '@/ui/usePointerDrag'
import { useProgram } from '@/line/program'
import { count } from '@/ui/format'
import type { Part } from '@/views/shownView'
import Swatch from '@/views/Swatch.vue'
import AskLine from './AskLine.vue'
import { titleOf } from '@/line/course'
import { useTrack, type Row } from './track'
import { useCourse } from './useCourse'

/** An item as a card in the stack of its step: taken to another by drag or by the arrow keys. */
const props = defineProps<{ row: Row; held: boolean; stepAt: (clientX: number) => number }>()
const emit = defineEmits<{ key: [event: KeyboardEvent]; over: [step?: number] }>()
const store = useProgram()
const track = useTrack()
const { item, team, size, may, who, blocked, notes, says, label, asked } = useCourse(() => props.row)

/** How it is there, without what its stack says anyway. */
const lines = computed(() => [
  ...(says.value === titleOf(track.course[props.row.at]) ? [] : [says.value]),
  ...notes.value.slice(blocked.value ? 1 : 0),
])

const rule = computed(() => track.painted.rule(item.value.key))
const shows = (part: Part) => track.parts.includes(part)
const more = computed(() => {
  const facts = store.itemFacts.get(item.value.key)
  return [
    shows('state') ? titleOf(track.course[props.row.at]) : '',
    shows('priority') ? (item.value.priority ?? '') : '',
    ...(shows('tags') ? (item.value.tags ?? []).map((tag) => `#${tag}`) : []),
    shows('checks') && facts?.checks ? `${facts.checked ?? 0} of ${count(facts.checks, 'check')}` : '',
  ].filter(Boolean)
})

const moving = ref('')
const { press } = usePointerDrag<true>({
  begin: () => may.value,
  move: (_, event, from) => {
    moving.value = `translate(${event.clientX - from.x}px, ${event.clientY - from.y}px)`
    emit('over', props.stepAt(event.clientX))
  },
  drop: (_, event) => void track.move(props.row, props.stepAt(event.clientX)),
  end: () => {
    moving.value = ''
    emit('over')
  },
})
</script>

<template>
  <li
    class="card"
    :class="{ may, blocked, moving }"
    :style="{ transform: moving || undefined, '--edge-colour': track.painted.colour(item) }"
    :data-item="item.key"
    :tabindex="held ? 0 : -1"
    :aria-label="label"
    @keydown="emit('key', $event)"
    @focus="track.cursor = item.key"
    @pointerdown="press(true, $event)"
  >
    <AskLine v-if="asked" :asked="asked" />
    <template v-else>
      <p>
        <Swatch v-if="rule?.mark" class="mark" :colour="rule.colour" :mark="rule.mark" />
        <RouterLink
          v-if="shows('key')"
          class="key"
          tabindex="-1"
          draggable="false"
          :to="{ name: 'backlog', params: { id: store.id }, query: { item: item.key } }"
          >{{ item.key }}</RouterLink
        >
        <template v-if="shows('title')">{{ ` ${item.title} ` }}</template>
        <span v-if="shows('size')" class="quiet small size">{{ size }}</span>
      </p>
      <p v-if="shows('assignee')" class="small">
        <b>{{ who }}</b> <span class="quiet">{{ team?.name }}</span>
      </p>
      <p v-if="more.length" class="small">{{ more.join(' · ') }}</p>
      <p class="small quiet">{{ lines.join(' · ') }}</p>
    </template>
  </li>
</template>

<style scoped>
.card {
  padding: 6px 10px;
  border: 1px solid var(--rule);
  border-left: 6px solid var(--edge-colour);
  border-radius: 4px;
  background: var(--panel);
  overflow-wrap: anywhere;
  user-select: none;
  touch-action: none;
}

.card:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: 1px;
}

.card.may {
  cursor: grab;
}

.card.blocked {
  border-style: dashed;
  border-color: var(--over);
}

.card.moving {
  position: relative;
  z-index: 3;
  box-shadow: var(--shadow);
  pointer-events: none;
}

p {
  margin: 0;
}

.size {
  white-space: nowrap;
}

.mark {
  vertical-align: -1px;
}

.key {
  color: inherit;
  font-weight: 600;
  text-decoration: none;
}

.key:hover {
  text-decoration: underline;
}
</style>
