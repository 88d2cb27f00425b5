<script setup lang="ts">
import { useSession } from '@/line/session'
import { serverTabs } from './tabs'

const session = useSession()
</script>

<template>
  <main class="server">
    <h1>The server</h1>
    <p v-if="!session.me?.admin">This is for administrators of the server.</p>
    <template v-else>
      <nav class="tabs" aria-label="Parts of the server">
        <RouterLink v-for="tab in serverTabs" :key="tab.path" :to="{ name: `server-${tab.path}` }">
          {{ tab.title }}
        </RouterLink>
      </nav>
      <RouterView />
    </template>
  </main>
</template>

<style scoped>
.server {
  flex: 1;
  min-height: 0;
  overflow: auto;
  width: min(1080px, 100%);
  margin: 0 auto;
  padding: 24px 20px 34px;
}

h1 {
  font-size: 26px;
  margin-bottom: 6px;
}

.tabs {
  margin-bottom: 16px;
  padding: 0;
}
</style>
