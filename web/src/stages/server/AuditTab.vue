<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, ref, watch } from 'vue'
import { answer, client } from '@/api/client'
import type { AuditEntry } from '@/api/types'
import { timeText } from '@/ui/dates'
import { useAttempt } from '@/ui/useAttempt'

/** Sign-ins, refusals and changes of rights, newest first. */
const { failure, busy, attempt } = useAttempt()
const only = reactive({ event: '', account: '' })
const events = ref<string[]>([])
const entries = ref<AuditEntry[]>([])
const more = ref(false)
const known = ref(false)
const query = computed(() => ({
  event: only.event || undefined,
  account: only.account.trim().toLowerCase() || undefined,
}))
const file = computed(() => {
  const asked = Object.entries(query.value).filter((x): x is [string, string] => !!x[1])
  return `/api/v1/audit/export?${new URLSearchParams(asked)}`
})

const read = (before?: number) =>
  attempt(async () => {
    const found = await answer(client.GET('/api/v1/audit', { params: { query: { ...query.value, before } } }))
    events.value = found.events
    entries.value = before ? [...entries.value, ...found.entries] : found.entries
    more.value = found.more
    known.value = true
  })
watch(query, () => void read(), { immediate: true })
</script>

<template>
  <section aria-label="Audit log">
    <p class="quiet">
      Who signed in, who was refused, and who changed what others may do; the newest 200,000 entries. Of the
      same refusals within a minute one is written.
    </p>
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
    <div class="row">
      <div class="field">
        <label for="au-event">What happened</label>
        <select id="au-event" v-model="only.event" class="in">
          <option value="">anything</option>
          <option v-for="e in events" :key="e">{{ e }}</option>
        </select>
      </div>
      <div class="field">
        <label for="au-account">By or about whom</label>
        <input
          id="au-account"
          v-model.lazy="only.account"
          class="in"
          maxlength="200"
          placeholder="a sign-in name"
          autocomplete="off"
        />
      </div>
      <a class="file" :href="file" download="audit.csv">
        <i class="pi pi-download" aria-hidden="true" /> Export as CSV
      </a>
    </div>
    <table v-if="entries.length" class="table">
      <thead>
        <tr>
          <th>When</th>
          <th>Who</th>
          <th>What</th>
          <th>About</th>
          <th>From</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="e in entries" :key="e.id">
          <td class="when">{{ timeText(e.at) }}</td>
          <td>{{ e.account || 'the server’s shell' }}</td>
          <td :class="{ flag: e.event.includes('refused') }">{{ e.event }}</td>
          <td>
            {{ e.about }}
            <span v-if="e.detail" class="quiet">{{ e.about ? `· ${e.detail}` : e.detail }}</span>
          </td>
          <td class="quiet" :title="e.request ? `Request ${e.request} in the server’s log` : undefined">
            {{ e.address }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="known && !busy" role="status">
      {{ only.event || only.account ? 'There is no such entry.' : 'Nothing has happened yet.' }}
    </p>
    <Button
      v-if="more"
      text
      label="Older entries"
      :disabled="busy"
      @click="read(entries[entries.length - 1]?.id)"
    />
  </section>
</template>

<style scoped>
.row {
  margin-bottom: 12px;
}

.when {
  white-space: nowrap;
}

td {
  overflow-wrap: anywhere;
}

.file {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  padding-bottom: 6px;
  color: inherit;
}
</style>
