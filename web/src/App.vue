<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import Button from 'primevue/button'
import Toast from 'primevue/toast'
import { useToast } from 'primevue/usetoast'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { answer, client } from './api/client'
import { lineOfAddress } from './api/inView'
import AppBar from './frame/AppBar.vue'
import LineBand from './frame/LineBand.vue'
import EndedLine from './frame/EndedLine.vue'
import WhyLine from './frame/WhyLine.vue'
import StandingStrip from './frame/StandingStrip.vue'
import StuckDialog from './frame/StuckDialog.vue'
import { router } from './router'
import { useGuide } from './stages/guide/guide'
import DownloadList from '@/ui/DownloadList.vue'
import { keysRest } from '@/ui/keysRest'
import { useRefusedFields } from '@/ui/refused'
import { useKeepFocus } from '@/ui/useKeepFocus'
import { provideToday } from '@/ui/today'
import { useRegions } from '@/ui/useRegions'
import { useProgram } from '@/line/program'
import { useSession } from '@/line/session'
import { useProposals } from '@/line/proposals'

const route = useRoute()
const toast = useToast()
const store = useProgram()
const session = useSession()
const id = computed(() => Number(route.params.id) || 0)
const proposals = useProposals()
/** What an edit would do is shown on every stage; it is there from the first time on. */
const GuidePanel = defineAsyncComponent(() => import('./stages/guide/GuidePanel.vue'))
const guide = useGuide()
const ProposalDialog = defineAsyncComponent(() => import('./frame/ProposalDialog.vue'))
const QuestionDialog = defineAsyncComponent(() => import('./frame/QuestionDialog.vue'))
const proposes = onceThereIs(() => proposals.proposal)
const asks = onceThereIs(() => store.question)
/** Whether there has been something yet: what shows it is loaded then, and stays. */
function onceThereIs(what: () => unknown) {
  const yet = ref(false)
  watch(what, (now) => (yet.value ||= !!now))
  return yet
}

provideToday(computed(() => (id.value ? store.todayDay : 0)))
useKeepFocus(() => store.revision)
useRefusedFields(() => store.revision)
useRegions()

/** How the address names the line in view. */
const line = computed(() => String(route.params.line ?? ''))
const open = () => (id.value ? void store.open(id.value, lineOfAddress(line.value)) : store.close())
watch([id, line], open, { immediate: true })

// Undo and redo work in every stage.
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z' || !id.value || keysRest(event))
    return
  event.preventDefault()
  void (event.shiftKey ? store.redo() : store.undo())
})

watch(
  () => store.notice,
  (notice) => {
    if (!notice) return
    toast.add({
      severity: notice.severity,
      summary: notice.severity === 'info' ? 'Done' : 'Not changed',
      detail: notice.text,
      life: 8000,
    })
    store.notice = undefined
  },
)

// Whoever's session ends while the page is open signs in again and goes on here.
watch(
  () => session.me,
  (me) => {
    if (me || !session.known || route.meta.open) return
    store.close()
    void router.push({ name: 'sign-in', query: { next: route.fullPath } })
  },
)

// Whoever does the work wants to see theirs; whoever has one program that, not a list of one.
let arrived = false
watch(
  () => [route.name, session.me] as const,
  async ([name, me]) => {
    if (name !== 'programs' || !me || arrived) {
      arrived ||= !!me && !!name && name !== 'sign-in' && name !== 'first'
      return
    }
    arrived = true
    if (me.watch) {
      await router.replace({ name: 'watch' })
      return
    }
    const list = await answer(client.GET('/api/v1/programs')).catch(() => [])
    if (list.length === 1 && route.name === 'programs')
      await router.replace({ name: 'plan', params: { id: list[0].id } })
  },
  { immediate: true },
)
</script>

<template>
  <Toast position="bottom-left" />
  <div class="app">
    <AppBar v-if="!route.meta.bare" />
    <template v-if="id">
      <template v-if="store.status === 'ready'">
        <div v-if="!store.connected" class="offline" role="status">
          <i class="pi pi-exclamation-triangle" aria-hidden="true" />
          <span>
            <b>No connection to the server.</b> What you see may be old, and edits are refused until it is
            back. It is being tried again.
          </span>
        </div>
        <div v-else-if="store.full" class="offline" role="alert">
          <i class="pi pi-exclamation-triangle" aria-hidden="true" />
          <span>
            <b>Edits cannot be saved: the server's disk is full.</b> All that is stored can be read. Whoever
            looks after the server has to make room; it is tried again by itself.
          </span>
        </div>
        <LineBand />
        <StandingStrip />
        <EndedLine />
        <WhyLine />
        <div class="stage-and-guide">
          <RouterView />
          <GuidePanel v-if="guide.shown" />
        </div>
        <ProposalDialog v-if="proposes" />
        <QuestionDialog v-if="asks" />
        <StuckDialog />
      </template>
      <main v-else class="state" :aria-busy="store.status === 'loading'">
        <template v-if="store.status === 'loading'">
          <div class="waves" aria-hidden="true"><span /><span /><span /></div>
          <p role="status">Loading the program…</p>
        </template>
        <template v-else-if="store.status === 'missing'">
          <template v-if="line">
            <h1>{{ store.line.at ? 'There is no such moment' : 'There is no such scenario' }}</h1>
            <p>
              {{
                store.line.at
                  ? 'The journal of this program begins later.'
                  : 'It may have been deleted, or is private.'
              }}
            </p>
            <Button
              label="Back to the live plan"
              @click="router.push({ name: 'plan', params: { id, line: '' } })"
            />
          </template>
          <template v-else>
            <h1>There is no such program</h1>
            <p>It may have been deleted.</p>
            <Button label="All programs" @click="router.push('/')" />
          </template>
        </template>
        <template v-else>
          <h1>The program could not be loaded</h1>
          <p>{{ store.failure }}</p>
          <Button label="Try again" icon="pi pi-refresh" @click="open" />
        </template>
      </main>
    </template>
    <RouterView v-else />
  </div>
  <DownloadList />
</template>

<style scoped>
.app {
  height: 100%;
  display: flex;
  flex-direction: column;
}

.stage-and-guide {
  display: flex;
  flex: 1;
  min-height: 0;
}

.stage-and-guide > :not(aside) {
  flex: 1;
  min-width: 0;
}

.offline {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 7px 16px;
  background: var(--over-soft);
  border-bottom: 1px solid var(--over);
}

.offline .pi {
  color: var(--over);
}

.state {
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 8px;
  align-items: center;
  justify-content: center;
  text-align: center;
}

.waves {
  display: flex;
  gap: 6px;
  align-items: end;
  height: 34px;
}

.waves span {
  width: 16px;
  height: 30px;
  background: var(--water);
  border-radius: 3px;
  animation: rise 1.2s ease-in-out infinite alternate;
}

.waves span:nth-child(2) {
  animation-delay: 0.25s;
}

.waves span:nth-child(3) {
  animation-delay: 0.5s;
}

@keyframes rise {
  from {
    height: 8px;
  }
}
</style>
