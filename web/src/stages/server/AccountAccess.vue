<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import { useAnswer } from '@/line/useAnswer'
import { shortDate, timeText } from '@/ui/dates'
import { count } from '@/ui/format'
import { linkText } from '@/ui/linkText'
import { useAttempt } from '@/ui/useAttempt'

/** By what an account reaches the server just now, and the ends of it. */
const props = defineProps<{ account: number }>()
const { failure, busy, attempt } = useAttempt()

const { answer: access, refresh } = useAnswer(
  () =>
    answer(client.GET('/api/v1/accounts/{account}/access', { params: { path: { account: props.account } } })),
  [() => props.account],
)
const sessions = computed(() => access.value?.sessions ?? [])
const lastSeen = computed(() => sessions.value.map((x) => x.seenAt).reduce((a, b) => (a > b ? a : b), ''))

async function signOut(): Promise<void> {
  const params = { path: { account: props.account } }
  if (await attempt(() => answer(client.DELETE('/api/v1/accounts/{account}/sessions', { params })))) refresh()
}

async function endLink(link: number): Promise<void> {
  const params = { path: { account: props.account, link } }
  await attempt(() => answer(client.DELETE('/api/v1/accounts/{account}/links/{link}', { params })))
  refresh()
}

async function endToken(token: number): Promise<void> {
  const params = { path: { account: props.account, token } }
  if (await attempt(() => answer(client.DELETE('/api/v1/accounts/{account}/tokens/{token}', { params }))))
    refresh()
}
</script>

<template>
  <section v-if="access" class="access" aria-label="Access">
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    <div class="line">
      <span v-if="sessions.length"
        >Signed in on {{ count(sessions.length, 'browser') }}, last used {{ timeText(lastSeen) }}</span
      >
      <span v-else class="quiet">Not signed in anywhere</span>
      <Button
        v-if="sessions.length"
        text
        size="small"
        type="button"
        label="Sign out everywhere"
        :disabled="busy"
        @click="signOut"
      />
    </div>
    <div v-for="t in access.tokens" :key="t.id" class="line">
      <span
        >Token {{ t.name }}: {{ t.role }} in {{ t.program }}, until {{ shortDate(t.expiresAt.slice(0, 10))
        }}{{ t.usedAt ? `, last used ${timeText(t.usedAt)}` : ', never used' }}</span
      >
      <Button
        text
        size="small"
        type="button"
        label="End"
        :aria-label="`End the token ${t.name}`"
        :disabled="busy"
        @click="endToken(t.id)"
      />
    </div>
    <div v-for="l in access.links" :key="l.id" class="line">
      <span
        >Link without an account: {{ linkText(l) }} in {{ l.in }}, created {{ timeText(l.madeAt)
        }}{{ l.usedAt ? `, last used ${timeText(l.usedAt)}` : ', never used' }}</span
      >
      <Button
        text
        size="small"
        type="button"
        label="End"
        :aria-label="`End the link: ${linkText(l)} in ${l.in}`"
        :disabled="busy"
        @click="endLink(l.id)"
      />
    </div>
  </section>
</template>

<style scoped>
.access {
  border-top: 1px solid var(--rule);
  padding-top: 8px;
  max-height: 220px;
  overflow: auto;
}

.line {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 36px;
}

.line > span {
  flex: 1;
}

.line > button {
  flex: none;
}
</style>
