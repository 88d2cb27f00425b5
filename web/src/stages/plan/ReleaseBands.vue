<script setup lang="ts">
import { computed } from 'vue'
import { releaseColour } from '@/ui/colours'
import { toDay } from '@/ui/dates'
import { useAxis } from '@/time/axis'
import { dateAt } from '@/line/landingRange'
import { useProgram } from '@/line/program'

const store = useProgram()
const axis = useAxis()
const x = (day: number) => (day - axis.from) * axis.zoom

/** Each release's due date, and the band from the even-odds date to the 85 % one. */
const bands = computed(() =>
  (store.program.releases ?? []).map((release, i) => {
    const landing = store.landings?.releases.find((l) => l.key === release.key)
    const [even, safe] = [dateAt(landing, 50), dateAt(landing, 85)]
    const left = even ? x(toDay(even)) : undefined
    return {
      key: release.key,
      colour: releaseColour(i),
      due: release.due ? x(toDay(release.due) + 1) : undefined,
      left,
      width: even && safe ? Math.max(axis.zoom, x(toDay(safe) + 1) - left!) : 0,
    }
  }),
)
const milestones = computed(() =>
  (store.program.milestones ?? []).map((m) => ({ key: m.key, at: x(toDay(m.date) + 1) })),
)
</script>

<template>
  <div class="bands" aria-hidden="true">
    <template v-for="band in bands" :key="band.key">
      <div
        v-if="band.left !== undefined && band.width"
        class="landing"
        :style="{ left: band.left + 'px', width: band.width + 'px', background: band.colour }"
      />
      <div
        v-if="band.due !== undefined"
        class="due"
        :style="{ left: band.due + 'px', background: band.colour }"
      />
    </template>
    <div v-for="m in milestones" :key="m.key" class="milestone" :style="{ left: m.at + 'px' }" />
  </div>
</template>

<style scoped>
.bands {
  position: absolute;
  inset: 0 0 0 158px;
  overflow: hidden;
  pointer-events: none;
  /* Over the water, under the blocks: a title must stay readable. */
  z-index: 1;
}

.landing {
  position: absolute;
  top: 0;
  bottom: 0;
  opacity: 0.16;
}

.due {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  margin-left: -1px;
}

.milestone {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 1px dashed var(--caution);
}
</style>
