<script setup lang="ts">
import { useElementSize, useScroll } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import TimeHeader from '@/time/TimeHeader.vue'
import KeysDialog from '@/ui/KeysDialog.vue'
import { HEAD_WIDTH, useTimeWheel } from '@/time/useTimeWheel'
import { useDraft } from './draft'
import { usePlan } from './plan'
import { useAxis } from '@/time/axis'
import { useProgram } from '@/line/program'
import MarkDefs from '@/views/MarkDefs.vue'
import { useViews } from '@/views/views'
import DraftPanel from './DraftPanel.vue'
import EmptyPlan from './EmptyPlan.vue'
import FeatureBars from './FeatureBars.vue'
import GroupPanel from './GroupPanel.vue'
import ItemPanel from './ItemPanel.vue'
import { useLevers } from './levers'
import LeversPanel from './LeversPanel.vue'
import NeedCurves from './NeedCurves.vue'
import NeedDraft from './NeedDraft.vue'
import OpenLane from './OpenLane.vue'
import PlanToolbar from './PlanToolbar.vue'
import RoughPanel from './RoughPanel.vue'
import ReleaseBands from './ReleaseBands.vue'
import SkylineLane from './SkylineLane.vue'
import UnplacedList from './UnplacedList.vue'
import { ownerOf } from './rough'
import { useBars } from './useBars'
import { useDrag, useDragState } from './useDrag'
import { keyList, useKeys } from './useKeys'
import { useNeedDrag } from './useNeedDrag'
import { providePlanLayout } from './usePlanLayout'

const store = useProgram()
const views = useViews()
const plan = usePlan()
const axis = useAxis()
const draft = useDraft()
const levers = useLevers()

const bars = useBars()
const scroller = ref<HTMLElement>()
const { width, height } = useElementSize(scroller)
const { y } = useScroll(scroller)
const layout = providePlanLayout({ top: y, height })
const drag = useDragState()
const help = ref(false)
const itemPanel = ref<InstanceType<typeof ItemPanel>>()

function begin(): void {
  plan.reset()
  void views.bring()
}
begin()
watch(width, (w) => (axis.width = Math.max(200, w - HEAD_WIDTH)), { immediate: true })
watch(() => store.id, begin)

const route = useRoute()
const router = useRouter()
// Somebody was led here to see what would mend a date: "release:R1", "milestone:M1".
watch(
  () => route.query.mend,
  (asked) => {
    const [kind, key] = String(asked ?? '').split(':')
    if (!key || (kind !== 'release' && kind !== 'milestone')) return
    levers.open({ [kind]: key })
    void router.replace({ query: {} })
  },
  { immediate: true },
)

const goToday = () => (axis.from = store.todayDay - axis.width / axis.zoom / 6)

useDrag()
useNeedDrag()
useKeys({
  help: () => (help.value = true),
  addNeed: () => itemPanel.value?.addNeed(),
  goToday,
})

const wheel = useTimeWheel(scroller)

// A need that is shown should be seen: what was picked in a list comes into view.
watch(
  () => plan.chosen?.key ?? plan.chosenRough?.key,
  (key) => {
    if (key && !plan.group)
      void nextTick(() =>
        document.querySelector(`[data-block="${CSS.escape(key)}"]`)?.scrollIntoView({ block: 'nearest' }),
      )
  },
)

const todayX = computed(() => (store.todayDay + 0.5 - axis.from) * axis.zoom)
const empty = computed(() => !store.program.teams?.length)
const dragged = computed(() =>
  drag.keys.length === 1 ? ownerOf(plan.thing(drag.keys[0])!) : `${drag.keys.length} items`,
)
</script>

<template>
  <main class="plan">
    <h1 class="visually-hidden">Plan of {{ store.program.name }}</h1>
    <EmptyPlan v-if="empty" />
    <template v-else>
      <PlanToolbar @help="help = true" @today="goToday" />
      <section ref="scroller" class="scroller" data-region="[data-block]" aria-label="Lanes" @wheel="wheel">
        <TimeHeader />
        <FeatureBars v-if="plan.bars !== 'none'" :bars="bars" />
        <div class="lanes" :style="{ height: layout.height.value + 'px' }">
          <ReleaseBands />
          <template v-for="lane in layout.visibleLanes.value" :key="lane.team.key">
            <OpenLane v-if="lane.open" :lane="lane" />
            <SkylineLane v-else :lane="lane" />
          </template>
          <div class="overlay" aria-hidden="true">
            <div class="today" :style="{ left: todayX + 'px' }" />
          </div>
          <NeedCurves />
        </div>
      </section>
      <div class="below">
        <DraftPanel v-if="draft.visible" />
        <LeversPanel v-else-if="levers.question" />
        <template v-else>
          <UnplacedList />
          <GroupPanel
            v-if="bars.chosen.value"
            :bar="bars.chosen.value"
            :may-move="bars.mayMove(plan.group)"
            :items="plan.selection"
          />
          <RoughPanel v-else-if="plan.chosenRough" :block="plan.chosenRough" />
          <ItemPanel v-else ref="itemPanel" />
        </template>
      </div>
      <div
        v-if="drag.keys.length"
        class="dragged"
        :style="{ left: drag.x + 12 + 'px', top: drag.y + 12 + 'px' }"
      >
        {{ dragged }}
      </div>
    </template>
    <MarkDefs />
    <NeedDraft />
    <KeysDialog v-model:visible="help" :keys="keyList" />
  </main>
</template>

<style scoped>
.plan {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}

.scroller {
  flex: 1;
  min-height: 150px;
  overflow: hidden auto;
  position: relative;
}

.lanes {
  position: relative;
  min-width: 100%;
}

.overlay {
  position: absolute;
  inset: 0 0 0 158px;
  overflow: hidden;
  pointer-events: none;
}

.today {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 2px dotted var(--ink);
}

.below {
  display: flex;
  flex: none;
  height: 208px;
  border-top: 1px solid var(--rule);
  background: var(--panel);
}

@media (min-height: 1000px) {
  .below {
    height: 290px;
  }
}

.dragged {
  position: fixed;
  z-index: 50;
  padding: 3px 9px;
  border-radius: 5px;
  background: var(--ink);
  color: var(--panel);
  font-weight: 600;
  pointer-events: none;
}
</style>
