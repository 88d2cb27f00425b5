<script setup lang="ts">
import { useEventListener, useIdle, useIntervalFn, useNow, useWakeLock, useWindowSize } from '@vueuse/core'
import { computed, onScopeDispose, ref, watch } from 'vue'
import { provideToday } from '@/ui/today'
import { useProgram } from '@/line/program'
import { timeText } from '@/ui/dates'
import { forced } from '@/ui/useTheme'
import { isDim, ROWS, rowsOf, screenfuls } from './layout'
import ScreenCard from './ScreenCard.vue'
import { useScreen } from './useScreen'

/**
 * A page on a wall: nobody has signed in here, and nobody touches it. It is drawn on a small stage that is as large as
 * the screen in the end, so that what is small on a desk is read from far.
 */
const secret = decodeURIComponent(window.location.hash.slice(1))
const { shown, at, lost, ended } = useScreen(secret)
const store = useProgram()
provideToday(computed(() => store.todayDay))

forced.value = 'dark'
document.documentElement.classList.add('on-wall')
onScopeDispose(() => {
  forced.value = undefined
  document.documentElement.classList.remove('on-wall')
})

const single = computed(() => !!shown.value?.screen.single)
const turns = computed(() => screenfuls(shown.value?.cards ?? [], single.value))
const turn = ref(0)
watch(turns, (all) => (turn.value = Math.min(turn.value, Math.max(0, all.length - 1))))
const step = (by: number) => (turn.value = (turn.value + by + turns.value.length) % (turns.value.length || 1))
const { pause, resume } = useIntervalFn(
  () => step(1),
  () => (shown.value?.screen.seconds ?? 20) * 1000,
)
const cards = computed(() => turns.value[turn.value] ?? [])

/** Few rows are higher ones; one that is too high for the screen is cut. */
const rows = computed(() => Math.min(ROWS, single.value ? 1 : rowsOf(cards.value)) || 1)

const { width, height } = useWindowSize()
const HEAD = 40
const GAP = 12
/** How high the stage is, in pixels: a card alone is drawn larger than several. */
const high = computed(() => (single.value ? 400 : HEAD + Math.max(3, rows.value) * (118 + GAP) + GAP))
const scale = computed(() => height.value / high.value)
const wide = computed(() => width.value / scale.value)
const row = computed(() => (high.value - HEAD - GAP - GAP * (rows.value - 1)) / rows.value)
const heightOf = (n: number) => Math.min(n, rows.value) * (row.value + GAP) - GAP

const { idle } = useIdle(3000)
const now = useNow({ interval: 20_000 })
const dim = computed(() => {
  const s = shown.value?.screen
  return !!s && isDim(now.value.getHours(), s.dimFrom, s.dimTo)
})
const lock = useWakeLock()
if (lock.isSupported.value) void lock.request('screen').catch(() => undefined) // it may be refused: then it is up to the screen

const root = ref<HTMLElement>()
const fill = () => void root.value?.requestFullscreen().catch(() => undefined)
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
  if (by) {
    pause()
    step(by)
    resume()
  } else if (event.key === 'f') fill()
})
</script>

<template>
  <main ref="root" class="screen" :class="{ dim, idle }" aria-label="Screen">
    <p v-if="ended" class="word" role="alert">{{ ended }}</p>
    <p v-else-if="!shown" class="word" role="status">
      {{ lost ? 'The server does not answer. It is being tried again.' : 'Loading…' }}
    </p>
    <!-- What is shown leads nowhere: who looks at a wall has not signed in. -->
    <div
      v-else
      class="stage"
      :style="{ width: `${wide}px`, height: `${high}px`, transform: `scale(${scale})` }"
      @click.capture.prevent.stop
    >
      <header>
        <h1>{{ shown.name }}</h1>
        <span class="quiet">{{ shown.excerpt.name }}</span>
        <span class="gap" />
        <span v-if="turns.length > 1" class="quiet">{{ turn + 1 }} of {{ turns.length }}</span>
        <b v-if="lost" class="old" role="status">No connection: this is of {{ timeText(at) }}</b>
        <span v-else class="quiet" role="status">As of {{ timeText(at) }}</span>
      </header>
      <div
        :key="turn"
        class="grid"
        :class="{ single }"
        :style="{ gridTemplateRows: `repeat(${rows}, ${row}px)` }"
      >
        <div
          v-for="c in cards"
          :key="c.key"
          class="cell"
          :style="
            single ? undefined : { gridColumn: `span ${c.wide}`, gridRow: `span ${Math.min(c.high, rows)}` }
          "
        >
          <ScreenCard :card="c" :height="heightOf(single ? 1 : c.high)" :single="single" />
        </div>
        <p v-if="!cards.length" class="quiet">The cards of this screen were taken away.</p>
      </div>
    </div>
    <button v-if="!idle && shown" class="plain-button fill" @click="fill">Fill the screen (F)</button>
  </main>
</template>

<style scoped>
.screen {
  position: fixed;
  inset: 0;
  overflow: hidden;
  background: var(--paper);
  color: var(--ink);
}

.screen.idle {
  cursor: none;
}

/* At night it is there, and does not shine. */
.screen.dim {
  filter: brightness(0.28);
}

.word {
  max-width: 30em;
  margin: 30vh auto 0;
  font-size: 28px;
  text-align: center;
}

.stage {
  padding: 0 12px;
  transform-origin: 0 0;
}

.stage :deep(a),
.stage :deep(button) {
  cursor: inherit;
  text-decoration: none;
}

header {
  display: flex;
  gap: 12px;
  align-items: center;
  height: 40px;
}

h1 {
  margin: 0;
  overflow: hidden;
  font: 600 18px/1.2 var(--heading);
  text-overflow: ellipsis;
  white-space: nowrap;
}

header > span,
.old {
  white-space: nowrap;
}

.gap {
  flex: 1;
}

.old {
  color: var(--caution);
}

.grid {
  display: grid;
  grid-template-columns: repeat(12, minmax(0, 1fr));
  gap: 12px;
}

.grid.single {
  grid-template-columns: minmax(0, 1fr);
}

.cell {
  min-width: 0;
  min-height: 0;
}

/* Nobody scrolls here: what does not fit is cut. */
.stage :deep(*) {
  scrollbar-width: none;
}

.fill {
  position: fixed;
  right: 12px;
  bottom: 12px;
}
</style>
