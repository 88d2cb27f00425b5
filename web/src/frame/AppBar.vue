<script setup lang="ts">
import Popover from 'primevue/popover'
import { useDebounceFn, useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { stages } from '@/router'
import { useTheme } from '@/ui/useTheme'
import { useProgram } from '@/line/program'
import { useNews } from '@/line/news'
import { useSession } from '@/line/session'
import FindBox from './FindBox.vue'
import LineMenu from './LineMenu.vue'
import JournalPanel from './JournalPanel.vue'
import { useGuide } from '@/stages/guide/guide'
import { useJournal } from './journal'

const route = useRoute()
const router = useRouter()
const store = useProgram()
const { theme, toggle } = useTheme()
const id = computed(() => Number(route.params.id) || 0)
const inProgram = computed(() => id.value > 0 && store.status === 'ready')
const journal = useJournal()
const guide = useGuide()
const menu = ref<InstanceType<typeof Popover>>()
const session = useSession()
const initials = computed(() =>
  (session.me?.name ?? '')
    .split(/\s+/)
    .map((word) => word[0])
    .slice(0, 2)
    .join('')
    .toUpperCase(),
)

// News turn up wherever one is: when a program changes, and when one comes back to the page.
const news = useNews()
const look = useDebounceFn(
  () => {
    if (session.me) void news.load()
  },
  1000,
  { maxWait: 10_000 },
)
watch([() => session.me?.id, () => store.revision], () => void look(), { immediate: true })
watch(() => session.me?.id, news.forget)
useEventListener(window, 'focus', () => void look())

async function signOut(): Promise<void> {
  menu.value?.hide()
  await session.signOut().catch(() => undefined)
  await router.push('/sign-in')
}
</script>

<template>
  <header class="bar" data-region="nav a.router-link-active">
    <RouterLink to="/" class="brand" aria-label="Jantrel: all programs">
      <svg viewBox="0 0 26 24" width="24" height="22" aria-hidden="true">
        <path d="M2 10h6v7H2zM10 2h6v15h-6zM18 7h6v10h-6z" fill="currentColor" />
        <path d="M1 21q3-3 6 0t6 0 6 0 6 0" fill="none" stroke="var(--focus)" stroke-width="2.2" />
      </svg>
      <span>Jantrel</span>
    </RouterLink>
    <template v-if="inProgram">
      <span class="program" :title="store.program.name">{{ store.program.name }}</span>
      <LineMenu />
      <nav aria-label="Stages">
        <RouterLink
          v-for="stage in stages"
          :key="stage.name"
          :to="{ name: stage.name, params: { id } }"
          class="stage"
        >
          {{ stage.title }}
        </RouterLink>
      </nav>
    </template>
    <span class="gap" />
    <template v-if="inProgram">
      <FindBox @journal="journal.show()" />
      <button
        class="tool"
        :disabled="!store.undoLabel || !store.connected"
        :title="store.undoLabel ? `Undo: ${store.undoLabel} (Ctrl+Z)` : 'Nothing to undo'"
        @click="store.undo()"
      >
        <i class="pi pi-undo" aria-hidden="true" />
        <span class="visually-hidden"
          >Undo<template v-if="store.undoLabel">: {{ store.undoLabel }}</template></span
        >
      </button>
      <button
        class="tool"
        :disabled="!store.redoLabel || !store.connected"
        :title="store.redoLabel ? `Redo: ${store.redoLabel} (Ctrl+Shift+Z)` : 'Nothing to redo'"
        @click="store.redo()"
      >
        <i class="pi pi-refresh" aria-hidden="true" />
        <span class="visually-hidden"
          >Redo<template v-if="store.redoLabel">: {{ store.redoLabel }}</template></span
        >
      </button>
      <button
        v-if="guide.on"
        class="tool"
        title="How this step is done well"
        :aria-pressed="guide.open"
        @click="guide.open = !guide.open"
      >
        <i class="pi pi-compass" aria-hidden="true" />
        <span class="visually-hidden">How this step is done well</span>
      </button>
      <button class="tool" title="What changed" @click="journal.show()">
        <i class="pi pi-history" aria-hidden="true" />
        <span class="visually-hidden">What changed</span>
      </button>
    </template>
    <button
      class="tool icon"
      :aria-label="theme === 'dark' ? 'Light theme' : 'Dark theme'"
      :title="theme === 'dark' ? 'Light theme' : 'Dark theme'"
      @click="toggle"
    >
      <i :class="['pi', theme === 'dark' ? 'pi-sun' : 'pi-moon']" aria-hidden="true" />
    </button>
    <template v-if="session.me">
      <button
        class="member"
        :aria-label="`You are ${session.me.name}${news.title && `, with ${news.title}`}`"
        :title="session.me.name"
        aria-haspopup="true"
        @click="menu?.toggle($event)"
      >
        {{ initials }}
        <span v-if="news.count" class="news" aria-hidden="true">{{ news.more ? '99+' : news.count }}</span>
      </button>
      <Popover ref="menu">
        <div class="menu">
          <b>{{ session.me.name }}</b>
          <span v-if="inProgram" class="quiet">{{ store.mine.role }}</span>
          <RouterLink to="/watch" @click="menu?.hide()"
            >My watch<template v-if="news.title">: {{ news.title }}</template></RouterLink
          >
          <RouterLink to="/account" @click="menu?.hide()">Your account</RouterLink>
          <RouterLink v-if="session.me.admin" to="/server" @click="menu?.hide()">The server</RouterLink>
          <button class="link" @click="signOut">Sign out</button>
        </div>
      </Popover>
    </template>
    <JournalPanel />
  </header>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 6px;
  height: 46px;
  padding: 0 16px;
  background: var(--bar);
  color: var(--bar-text);
  flex: none;
}

.brand {
  display: flex;
  gap: 9px;
  align-items: center;
  color: inherit;
  text-decoration: none;
  font: 700 19px var(--heading);
}

.program {
  margin: 0 10px 0 12px;
  max-width: 200px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  color: var(--bar-text);
}

nav {
  display: flex;
  height: 100%;
}

.stage {
  display: flex;
  align-items: center;
  padding: 0 13px;
  color: var(--bar-text);
  text-decoration: none;
  white-space: nowrap;
  font: 600 15px var(--heading);
}

.stage.router-link-active {
  background: var(--paper);
  color: var(--ink);
}

.gap {
  flex: 1;
}

.tool {
  display: flex;
  gap: 6px;
  align-items: center;
  height: 28px;
  padding: 0 8px;
  border: 1px solid transparent;
  border-radius: 6px;
  background: none;
  color: var(--bar-text);
  cursor: pointer;
}

.tool:hover:not(:disabled) {
  border-color: var(--bar-quiet);
}

.tool:disabled {
  color: var(--bar-quiet);
  opacity: 0.6;
  cursor: default;
}

.member {
  position: relative;
  width: 28px;
  height: 28px;
  border: 0;
  border-radius: 50%;
  background: var(--focus);
  color: #16283a;
  font-weight: 700;
  font-size: 11px;
  cursor: pointer;
}

.news {
  position: absolute;
  top: -5px;
  right: -9px;
  min-width: 16px;
  padding: 0 4px;
  border-radius: 8px;
  background: var(--over);
  color: var(--panel);
  font-size: 10px;
  line-height: 16px;
}

.menu {
  display: grid;
  gap: 7px;
  min-width: 160px;
}

.menu a {
  color: inherit;
}
</style>
