<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { answer, client } from '@/api/client'
import { timeText } from '@/ui/dates'
import { bytes, count } from '@/ui/format'
import { useAttempt } from '@/ui/useAttempt'
import { useAnswer } from '@/line/useAnswer'

/** The backups that there are, when others are made, and one now. */
const { failure, busy, attempt } = useAttempt()
const making = ref(false)
const made = ref('')

const {
  answer: found,
  failure: unanswered,
  refresh,
} = useAnswer(() => answer(client.GET('/api/v1/backups')), [])

async function make(): Promise<void> {
  making.value = true
  made.value = ''
  await attempt(async () => {
    const backup = await answer(client.POST('/api/v1/backups'))
    made.value = `${backup.name} holds all there is, ${bytes(backup.size)}. It was looked through.`
    refresh()
  })
  making.value = false
}

const schedule = computed(() => {
  const { everyHours = 0, keep = 0 } = found.value ?? {}
  const often =
    everyHours === 0
      ? 'None are made by themselves (start the server with --backup-every to change that)'
      : everyHours === 24
        ? 'One is made every day'
        : everyHours === 1
          ? 'One is made every hour'
          : `One is made every ${everyHours} hours`
  const kept = keep === 0 ? 'all are kept' : `the newest ${keep} are kept`
  return `${often}; ${kept}.`
})
const tight = computed(() => {
  const b = found.value
  return b && b.room > 0 && b.room < 2 * b.database
})
</script>

<template>
  <section aria-label="Backups">
    <p class="quiet">
      A backup is one file with everything: programs with their history, accounts, files of items. Whoever has
      it has all of that, so keep it as safe as the server. On another machine it survives this one.
      <code>jantrel restore</code> makes a data folder of it.
    </p>
    <p v-if="failure || unanswered" class="failure" role="alert">{{ failure || unanswered }}</p>
    <p v-if="made" role="status">{{ made }}</p>
    <template v-if="found?.available">
      <p>{{ schedule }}</p>
      <p v-if="tight" class="flag">
        There is little room: {{ bytes(found.room) }} are left on the disk of the backups, and one takes about
        {{ bytes(found.database) }}.
      </p>
      <div class="buttons">
        <Button
          label="Make a backup now"
          icon="pi pi-save"
          :loading="making"
          :disabled="busy"
          @click="make"
        />
        <span class="quiet">about {{ bytes(found.database) }}, into {{ found.folder }}</span>
      </div>
      <table v-if="found.list.length" class="table">
        <thead>
          <tr>
            <th>Made</th>
            <th>File</th>
            <th class="n">Size</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="b in found.list" :key="b.name">
            <td>
              {{ timeText(b.at) }}
              <span v-if="b.ahead" class="flag"
                >This time is still to come: the clock ran ahead. The file stays until somebody removes
                it.</span
              >
            </td>
            <td>{{ b.name }}</td>
            <td class="n">{{ bytes(b.size) }}</td>
            <td class="n">
              <a :href="`/api/v1/backups/${b.name}`" :download="b.name" :aria-label="`Download ${b.name}`">
                Download
              </a>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="none">
        There is no backup yet.
        {{ found.keep ? `Here up to ${count(found.keep, 'backup')} will be listed.` : '' }}
      </p>
    </template>
  </section>
</template>

<style scoped>
.buttons {
  display: flex;
  gap: 12px;
  align-items: center;
  justify-content: flex-start;
  margin: 12px 0;
}

.buttons .quiet {
  overflow-wrap: anywhere;
}

a {
  color: inherit;
}
</style>
