<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { ref, watch } from 'vue'
import { useProposals } from '@/line/proposals'
import EffectList from './EffectList.vue'
import LandingsTable from './LandingsTable.vue'

/** What an edit would do, before it is made. */
const proposals = useProposals()
const busy = ref(false)

watch(
  () => proposals.proposal,
  () => (busy.value = false),
)

async function agree(): Promise<void> {
  busy.value = true
  await proposals.agree()
  busy.value = false
}
</script>

<template>
  <Dialog
    :visible="!!proposals.proposal"
    modal
    :header="proposals.proposal?.label"
    :style="{ width: '560px' }"
    @update:visible="proposals.dismiss()"
  >
    <template v-if="proposals.proposal">
      <p v-if="proposals.proposal.anew" class="failure" role="alert">
        The plan has changed meanwhile, so nothing was done yet. This is what it would do now.
      </p>
      <ul v-if="proposals.proposal.notes?.length" class="notes">
        <li v-for="note in proposals.proposal.notes.slice(0, 40)" :key="note">{{ note }}</li>
        <li v-if="proposals.proposal.notes.length > 40">
          and {{ proposals.proposal.notes.length - 40 }} more
        </li>
      </ul>
      <fieldset v-if="proposals.proposal.ask" class="ask">
        <legend>{{ proposals.proposal.ask.text }}</legend>
        <label v-for="a in proposals.proposal.ask.answers" :key="a.value" class="check">
          <input
            type="radio"
            name="ask"
            :value="a.value"
            :checked="a.value === proposals.proposal.ask.answer"
            :disabled="proposals.working"
            @change="proposals.reply(a.value)"
          />
          {{ a.text }}
        </label>
      </fieldset>
      <LandingsTable v-if="proposals.proposal.landings?.length" :landings="proposals.proposal.landings" />
      <p v-if="!proposals.proposal.changes" class="quiet">There is nothing to change.</p>
      <EffectList v-else-if="proposals.proposal.effects" :effects="proposals.proposal.effects" />
    </template>
    <template #footer>
      <Button text label="Leave it as it is" @click="proposals.dismiss()" />
      <Button v-if="proposals.proposal?.changes" label="Apply" autofocus :disabled="busy" @click="agree" />
    </template>
  </Dialog>
</template>

<style scoped>
.notes {
  margin: 0 0 8px;
  padding-left: 16px;
}

.ask {
  display: grid;
  gap: 4px;
  margin-bottom: 12px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 8px 12px;
}
</style>
