<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { releaseColour } from '@/ui/colours'
import { shortDate } from '@/ui/dates'
import { count } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useWanted } from '@/stages/setup/useWanted'
import MilestoneForm from './MilestoneForm.vue'
import NewRelease from './NewRelease.vue'
import ReleasePanel from './ReleasePanel.vue'

const store = useProgram()
const route = useRoute()
const may = computed(() => store.may({ op: 'add', kind: 'release' }))
const releases = computed(() => store.program.releases ?? [])
const milestones = computed(() => store.program.milestones ?? [])
const chosen = ref('')
const release = computed(() => releases.value.find((r) => r.key === chosen.value))
const adding = ref(false)
const milestone = ref({ open: false, key: '' })
useWanted({
  'new-release': () => (adding.value = true),
  'new-milestone': () => (milestone.value = { open: true, key: '' }),
})

// A bar that was clicked in the calendar leads here.
watch(
  () => [route.query.release, route.query.milestone, releases.value.length] as const,
  ([asked, dated]) => {
    if (typeof asked === 'string') chosen.value = asked
    else if (!release.value) chosen.value = releases.value[0]?.key ?? ''
    if (typeof dated === 'string') milestone.value = { open: true, key: dated }
  },
  { immediate: true },
)
const names = (keys: string[] | undefined) =>
  (keys ?? []).map((key) => store.releases.get(key)?.name ?? key).join(', ')
</script>

<template>
  <div class="split">
    <section class="side" aria-label="Releases and milestones">
      <header class="titled">
        <h2>Releases</h2>
        <Button
          v-if="may"
          data-new
          title="New release (N)"
          size="small"
          text
          icon="pi pi-plus"
          label="New release"
          @click="adding = true"
        />
      </header>
      <p v-if="!releases.length" class="quiet">
        A release has a due date, and may have phases, milestones and documents.
      </p>
      <ul class="plain">
        <li v-for="(r, i) in releases" :key="r.key">
          <button class="entry" :aria-pressed="r.key === chosen" @click="chosen = r.key">
            <span class="mark" :style="{ background: releaseColour(i) }" />
            <b>{{ r.name }}</b>
            <span class="quiet">{{ r.due ? `due ${shortDate(r.due, store.todayDay)}` : 'no due date' }}</span>
          </button>
        </li>
      </ul>
      <header class="titled">
        <h2>Milestones</h2>
        <Button
          v-if="may"
          size="small"
          text
          icon="pi pi-plus"
          label="New milestone"
          @click="milestone = { open: true, key: '' }"
        />
      </header>
      <ul class="plain">
        <li v-for="m in milestones" :key="m.key">
          <button class="entry" @click="milestone = { open: true, key: m.key }">
            <b>{{ m.name }}</b>
            <span class="quiet">{{ shortDate(m.date, store.todayDay) }}</span>
            <span class="quiet small under">
              {{ names(m.releases) || 'no release' }} · {{ count(m.needs?.length ?? 0, 'item') }} by then
            </span>
          </button>
        </li>
      </ul>
    </section>
    <ReleasePanel v-if="release" :key="release.key" :release="release" @gone="chosen = ''" />
    <p v-else class="quiet none">Choose a release, or make one.</p>
    <NewRelease v-model:visible="adding" @made="chosen = $event" />
    <MilestoneForm v-model:visible="milestone.open" :milestone="milestone.key" />
  </div>
</template>

<style scoped>
.entry {
  grid-template-columns: auto 1fr auto;
}

.entry > b:first-child {
  grid-column: span 2;
}

.mark {
  width: 10px;
  height: 10px;
  border-radius: 2px;
}

.under {
  grid-column: 1 / -1;
}
</style>
