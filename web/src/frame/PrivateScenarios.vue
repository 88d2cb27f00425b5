<script setup lang="ts">
import { ref } from 'vue'
import { answer, client } from '@/api/client'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'
import { shortDate } from '@/ui/dates'
import { count } from '@/ui/format'
import { useAttempt } from '@/ui/useAttempt'

/** For who manages the program: that others have scenarios of their own, and the end of those of people who left. */
const store = useProgram()
const { failure, busy, attempt } = useAttempt()
const { answer: list, refresh } = useAnswer(
  () => answer(client.GET('/api/v1/programs/{id}/scenarios/private', { params: { path: { id: store.id } } })),
  [() => store.id],
)
/** The one that is asked about: whether it is to be deleted. */
const asked = ref<number>()

async function remove(scenario: number): Promise<void> {
  const params = { path: { id: store.id, scenario } }
  await attempt(() => answer(client.DELETE('/api/v1/programs/{id}/scenarios/{scenario}', { params })))
  asked.value = undefined
  refresh()
}
</script>

<template>
  <template v-if="list?.length">
    <h3>Private scenarios of others</h3>
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    <div v-for="s in list" :key="s.id" class="pair">
      <template v-if="asked === s.id">
        <span class="name small">Delete this scenario for good? It can’t be undone.</span>
        <button v-focus class="plain-button" :disabled="busy" @click="remove(s.id)">Delete</button>
        <button class="plain-button" @click="asked = undefined">Cancel</button>
      </template>
      <template v-else>
        <span class="name"
          >{{ s.by }}
          <span class="quiet small"
            >{{ s.left ? 'has left · ' : '' }}{{ shortDate(s.at.slice(0, 10), store.todayDay) }} ·
            {{ count(s.edits, 'edit') }}</span
          ></span
        >
        <button
          v-if="s.left"
          class="plain-button icon"
          :aria-label="`Delete the scenario of ${s.by}`"
          title="Delete it: its owner has left the program"
          @click="asked = s.id"
        >
          <i class="pi pi-trash" aria-hidden="true" />
        </button>
      </template>
    </div>
  </template>
</template>

<style scoped>
h3 {
  margin: 6px 0 0;
  font-size: 13px;
}

.pair {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 30px;
}

.name {
  flex: 1;
  padding-left: 8px;
}
</style>
