<script setup lang="ts">
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import { manages } from '@/line/may'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'
import { timeText } from '@/ui/dates'
import { linkText } from '@/ui/linkText'
import { useAttempt } from '@/ui/useAttempt'

/** Everything that shows something of the program to people without an account: for its managers all of it, else one's own. */
const store = useProgram()
const { failure, busy, attempt } = useAttempt()
const { answer: links, refresh } = useAnswer(
  () => answer(client.GET('/api/v1/programs/{id}/links', { params: { path: { id: store.id } } })),
  [() => store.id],
)
const all = computed(() => manages(store.mine))

async function end(link: number): Promise<void> {
  const params = { path: { id: store.id, link } }
  await attempt(() => answer(client.DELETE('/api/v1/programs/{id}/links/{link}', { params })))
  refresh()
}
</script>

<template>
  <section aria-labelledby="links">
    <h2 id="links">{{ all ? 'Links without an account' : 'Your links without an account' }}</h2>
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    <p class="quiet">
      Anyone who has one of these links can see what it leads to, without signing in. A link works as long as
      the person who created it belongs to the program. When someone is removed from the program, their links
      end for good.
    </p>
    <table v-if="links?.length" class="table">
      <thead>
        <tr>
          <th>Leads to</th>
          <th>Created by</th>
          <th>Created</th>
          <th>Last used</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="l in links" :key="l.id">
          <td>{{ linkText(l) }}</td>
          <td>{{ l.by }}</td>
          <td>{{ timeText(l.madeAt) }}</td>
          <td>{{ l.usedAt ? timeText(l.usedAt) : 'never' }}</td>
          <td class="n">
            <button
              class="plain-button"
              :aria-label="`End the link: ${linkText(l)}, created by ${l.by}`"
              :disabled="busy"
              @click="end(l.id)"
            >
              End
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="links">
      No links yet. Published briefs, pages of charts and calendar files each offer to create one.
    </p>
  </section>
</template>

<style scoped>
h2 {
  font-size: 17px;
  margin-bottom: 6px;
}
</style>
