<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { ref } from 'vue'
import { timeText } from '@/ui/dates'
import MadeLink from '@/ui/MadeLink.vue'
import { useBriefs } from './briefs'

/** The links by which a published brief is read without an account: made, followed, ended. */
const briefs = useBriefs()
const emit = defineEmits<{ close: [] }>()
const made = ref('')
void briefs.bringLinks()
async function make(): Promise<void> {
  made.value = (await briefs.link()) ?? ''
}
</script>

<template>
  <Dialog
    visible
    modal
    header="Links to this brief"
    :style="{ width: '560px' }"
    @update:visible="emit('close')"
  >
    <p>
      Whoever has a link reads this brief, and nothing else, without an account. It leads here until it is
      ended, and as long as who made it belongs to the program.
    </p>
    <ul v-if="briefs.links?.length" class="links-in" aria-label="Links">
      <li v-for="l in briefs.links" :key="l.id">
        <span
          >Made {{ timeText(l.madeAt) }} by {{ l.by }},
          {{ l.readAt ? `read last ${timeText(l.readAt)}` : 'not read yet' }}</span
        >
        <button class="plain-button" @click="briefs.endLink(l.id)">End it</button>
      </li>
    </ul>
    <p v-else-if="briefs.links" class="quiet">There is none.</p>
    <MadeLink v-if="made" :value="made" />
    <p v-if="briefs.failure" role="alert" class="failure">{{ briefs.failure }}</p>
    <div class="buttons">
      <button class="plain-button main" autofocus @click="make">Make a link</button>
    </div>
  </Dialog>
</template>

<style scoped>
p {
  margin: 0 0 8px;
}
</style>
