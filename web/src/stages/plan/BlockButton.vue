<script setup lang="ts">
import { computed } from 'vue'
import type { Team } from '@/api/types'
import { sized } from '@/ui/format'
import { useDraft } from './draft'
import { useLevers } from './levers'
import { usePlan } from './plan'
import { useProgram } from '@/line/program'
import { markOf, paints, textColours } from '@/views/paints'
import { READABLE, type Block } from './layout'
import type { Part } from '@/views/shownView'
import { isRough, ownerOf } from './rough'
import { press } from './useDrag'
import { pressGrip } from './useNeedDrag'
import { moveCursor } from './moveCursor'
import { usePlanLayout } from './usePlanLayout'

const props = defineProps<{ block: Block; offset: number; team: Team; tabbable: boolean }>()
const store = useProgram()
const plan = usePlan()
const draft = useDraft()
const levers = useLevers()
const layout = usePlanLayout()

const item = computed(() => props.block.item)
const rule = computed(() => layout.rule(item.value))
const rough = computed(() => isRough(item.value))
const owner = computed(() => ownerOf(item.value))
const lacks = computed(() => store.itemFacts.get(item.value.key)?.lacks ?? [])
const leaves = computed(() =>
  draft.visible
    ? draft.accepted.has(item.value.key) && draft.byKey.has(item.value.key)
    : levers.moving.has(item.value.key),
)
const readable = computed(() => props.block.height >= READABLE && props.block.width >= 44)
const mayNeed = computed(
  () => !rough.value && store.may({ op: 'add', kind: 'need', in: item.value.key, key: '' }),
)
const shows = (part: Part) => plan.parts.includes(part)
/** From this height on there is room for a second line. */
const TWO_LINES = 28
/** What stands beside the title where that is chosen: who, the state, tags, checks. */
const rest = computed(() => {
  const x = item.value
  const facts = store.itemFacts.get(x.key)
  return [
    shows('assignee') && store.program.people?.find((p) => p.key === x.assignee)?.name,
    shows('state') && (x.state || 'todo'),
    shows('priority') && x.priority,
    shows('tags') && (x.tags ?? []).map((tag) => `#${tag}`).join(' '),
    shows('checks') && facts?.checks && `${facts.checked ?? 0} of ${facts.checks} checks`,
  ]
    .filter(Boolean)
    .join(' · ')
})
/** In a block of one line, the rest stands where the title would, if that is not shown. */
const words = computed(() =>
  shows('title') ? item.value.title : props.block.height < TWO_LINES ? rest.value : '',
)
const label = computed(() => {
  const notes = [
    rough.value && 'rough',
    props.block.over && 'over capacity',
    lacks.value.length && 'not ready',
    leaves.value && 'the draft moves it',
  ]
  return [
    `${owner.value} ${item.value.title}`,
    sized(item.value.size, props.team),
    item.value.state,
    ...notes,
  ]
    .filter(Boolean)
    .join(', ')
})
</script>

<template>
  <button
    :class="[
      'block',
      item.state,
      {
        over: block.over,
        selected: plan.selected.has(item.key),
        readable,
        leaves,
        rough,
        hushed: layout.hushed(item),
      },
    ]"
    :style="{
      left: block.left - offset + 'px',
      top: block.top + 'px',
      width: block.width + 'px',
      height: block.height + 'px',
      '--fill': layout.colour(item),
      color: rule && !block.over ? textColours[paints[rule.colour].text] : undefined,
    }"
    :aria-label="label"
    :aria-pressed="plan.selected.has(item.key)"
    :title="label"
    :data-block="item.key"
    :tabindex="tabbable ? 0 : -1"
    @pointerdown="press(item.key, $event)"
    @click="plan.select(item.key, $event.ctrlKey || $event.metaKey || $event.shiftKey)"
    @keydown="moveCursor(item.key, $event)"
  >
    <svg v-if="rule?.mark && rule.mark !== 'plain' && !block.over" class="mark" aria-hidden="true">
      <rect width="100%" height="100%" :fill="markOf(rule)" />
    </svg>
    <template v-if="readable">
      <span class="title"
        ><b v-if="shows('key')">{{ owner }}</b> <i v-if="rough">rough </i>{{ words }}
        <span v-if="rest && block.height >= TWO_LINES" class="rest">{{ rest }}</span></span
      >
      <i v-if="item.pinned" class="pi pi-thumbtack" aria-hidden="true" />
      <span v-if="shows('size')" class="size">{{ item.size ?? '?' }}</span>
    </template>
    <span
      v-if="readable && mayNeed"
      class="grip"
      title="Drag to what needs this"
      @pointerdown.stop="pressGrip(item.key, $event)"
      @click.stop
    />
  </button>
</template>

<style scoped>
.block {
  position: absolute;
  display: flex;
  align-items: center;
  gap: 4px;
  padding: 0 5px;
  border: 0;
  border-radius: 3px;
  background: var(--fill);
  color: var(--on-block);
  font-size: 11.5px;
  line-height: 1.1;
  text-align: left;
  cursor: grab;
  touch-action: none;
  user-select: none;
  z-index: 2;
}

.block.done {
  color: var(--ink);
}

:root[data-theme='dark'] .block.done {
  color: #fff;
}

.block.doing::before,
.block.review::before {
  content: '';
  position: absolute;
  inset: 0 auto 0 0;
  width: 3px;
  border-radius: 3px 0 0 3px;
  background: var(--focus);
}

.block.over {
  background: repeating-linear-gradient(
    -45deg,
    var(--over-soft) 0 6px,
    color-mix(in srgb, var(--over) 28%, var(--over-soft)) 6px 9px
  );
  color: var(--ink);
  box-shadow: inset 0 0 0 1.5px var(--over);
}

.mark {
  flex: none;
  align-self: stretch;
  width: 12px;
  height: 100%;
  margin-left: -5px;
  border-radius: 3px 0 0 3px;
}

.block.selected {
  outline: 2.5px solid var(--focus);
  outline-offset: -1px;
  z-index: 5;
}

.block.leaves {
  opacity: 0.55;
  box-shadow: inset 0 0 0 1.5px var(--focus);
}

/* Not broken down yet: its edge is dashed and its fill thin. */
.block.rough {
  border: 1.5px dashed var(--quiet);
  background: color-mix(in srgb, var(--fill) 22%, var(--panel));
  color: var(--ink);
}

.block.hushed {
  opacity: 0.18;
}

/* From here a need is drawn to the block that needs this one. */
.grip {
  position: absolute;
  right: -5px;
  top: 50%;
  width: 10px;
  height: 10px;
  transform: translateY(-50%);
  border: 2px solid var(--panel);
  border-radius: 50%;
  background: var(--needs);
  cursor: crosshair;
  opacity: 0;
}

.block:hover .grip,
.block.selected .grip {
  opacity: 1;
}

.rest {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: 10.5px;
}

.block:focus-visible {
  outline: 3px solid var(--ink);
  outline-offset: 0;
  z-index: 6;
}

.title {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.size {
  font-weight: 650;
}

.pi {
  font-size: 9px;
}
</style>
