<script setup lang="ts">
import { computed, ref } from 'vue'
import { answer, client } from '@/api/client'
import { timeText } from '@/ui/dates'
import { bytes, percent } from '@/ui/format'
import { useAttempt } from '@/ui/useAttempt'
import { useAnswer } from '@/line/useAnswer'
import { manages } from '@/line/may'
import { useProgram } from '@/line/program'

/** How much room the files of the program's items take, and those of items that are gone. */
const store = useProgram()
const { failure, busy, attempt } = useAttempt()
const may = computed(() => manages(store.mine))
/** The file that waits for a yes before it is removed. */
const asking = ref(0)

const {
  answer: found,
  failure: unanswered,
  refresh,
} = useAnswer(() => {
  const params = { path: { id: store.id } }
  return may.value ? answer(client.GET('/api/v1/programs/{id}/attachments/gone', { params })) : undefined
}, [() => store.id, () => store.revision, may])

async function remove(attachment: number): Promise<void> {
  const params = { path: { id: store.id, attachment } }
  if (
    !(await attempt(() =>
      answer(client.DELETE('/api/v1/programs/{id}/attachments/{attachment}', { params })),
    ))
  )
    return
  asking.value = 0
  refresh()
}
</script>

<template>
  <div class="files">
    <h2>Files of items</h2>
    <p v-if="failure || unanswered" class="failure" role="alert">{{ failure || unanswered }}</p>
    <p v-if="!may">Administrators and program managers see how much room files take.</p>
    <template v-else-if="found">
      <p>
        All files of the program take {{ bytes(found.taken) }} of {{ bytes(found.most) }}
        <span class="quiet">({{ percent(found.taken / found.most) }})</span>.
      </p>
      <h2>Of items that are gone</h2>
      <p class="quiet">
        They stay, so that undoing a removal brings them back. Removed here, they are gone for good.
      </p>
      <table v-if="found.files.length" class="table">
        <thead>
          <tr>
            <th>File</th>
            <th>Item</th>
            <th class="n">Size</th>
            <th>Item removed</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="f in found.files" :key="f.id">
            <td>
              <a :href="`/api/v1/programs/${store.id}/attachments/${f.id}`" :download="f.name">{{
                f.name
              }}</a>
            </td>
            <td>
              {{ f.title || 'an item' }} <span class="quiet">{{ f.item }}</span>
            </td>
            <td class="n">{{ bytes(f.size) }}</td>
            <td>{{ f.goneAt ? `${timeText(f.goneAt)}, by ${f.goneBy}` : '' }}</td>
            <td class="n">
              <button v-if="asking === f.id" class="chip" :disabled="busy" @click="remove(f.id)">
                Remove for good
              </button>
              <button v-else class="round" :aria-label="`Remove ${f.name}`" @click="asking = f.id">
                <i class="pi pi-times" aria-hidden="true" />
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else>There are none.</p>
    </template>
  </div>
</template>

<style scoped>
.files {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 16px 24px 30px;
}

.files > * {
  max-width: 900px;
}

h2 {
  margin: 12px 0 6px;
}

td {
  overflow-wrap: anywhere;
}

a {
  color: inherit;
}
</style>
