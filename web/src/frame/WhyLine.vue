<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answer, client, wordsOf } from '@/api/client'
import { useProgram } from '@/line/program'

/** Asks who changed the scope of what has begun for a reason, where the program wants one. */
const store = useProgram()
const text = ref('')
const what = computed(() => {
  const keys = store.askedWhy?.items ?? []
  const first = keys.slice(0, 3).join(', ')
  return keys.length > 3 ? `${first} and more` : first
})
watch(
  () => store.askedWhy?.revision,
  () => (text.value = ''),
)

async function keep(): Promise<void> {
  const asked = store.askedWhy
  if (!asked || !text.value.trim()) return
  try {
    await answer(
      client.PUT('/api/v1/programs/{id}/journal/{revision}/why', {
        params: { path: { id: store.id, revision: asked.revision } },
        body: { why: text.value.trim() },
      }),
    )
    store.explained++
    if (store.askedWhy?.revision === asked.revision) store.askedWhy = undefined
  } catch (error) {
    store.notice = { text: wordsOf(error), severity: 'error' }
  }
}
</script>

<template>
  <form
    v-if="store.askedWhy"
    class="why"
    data-region
    aria-label="Why the scope was changed"
    @submit.prevent="keep"
    @keydown.esc.stop="store.askedWhy = undefined"
  >
    <p id="why-asked" role="status">
      <b>{{ what }}</b> changed the scope of what has begun. Why?
    </p>
    <input v-model="text" class="in" maxlength="300" aria-labelledby="why-asked" />
    <button class="chip" type="submit" :disabled="!text.trim()">Keep</button>
    <button class="chip" type="button" @click="store.askedWhy = undefined">Not now</button>
  </form>
</template>

<style scoped>
.why {
  display: flex;
  flex: none;
  gap: 10px;
  align-items: center;
  padding: 3px 16px;
  border-bottom: 1px solid var(--rule);
  background: var(--tint);
}

p {
  margin: 0;
}

.in {
  flex: 1;
  max-width: 520px;
}

.chip:disabled {
  opacity: 0.5;
}
</style>
