<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { ref, watch } from 'vue'
import { useSetUp } from './setup'
import EffectList from './EffectList.vue'

/** What an edit would do, before it is made. */
const setUp = useSetUp()
const busy = ref(false)
watch(
  () => setUp.proposal,
  () => (busy.value = false),
)

async function agree(): Promise<void> {
  busy.value = true
  await setUp.agree()
  busy.value = false
}
</script>

<template>
  <Dialog
    :visible="!!setUp.proposal"
    modal
    :header="setUp.proposal?.label"
    :style="{ width: '560px' }"
    @update:visible="setUp.dismiss()"
  >
    <template v-if="setUp.proposal">
      <p v-if="setUp.proposal.anew" class="failure" role="alert">
        The plan has changed meanwhile, so nothing was done yet. This is what it would do now.
      </p>
      <ul v-if="setUp.proposal.notes?.length" class="notes">
        <li v-for="note in setUp.proposal.notes.slice(0, 40)" :key="note">{{ note }}</li>
        <li v-if="setUp.proposal.notes.length > 40">and {{ setUp.proposal.notes.length - 40 }} more</li>
      </ul>
      <p v-if="!setUp.proposal.changes" class="quiet">There is nothing to change.</p>
      <EffectList v-else-if="setUp.proposal.effects" :effects="setUp.proposal.effects" />
    </template>
    <template #footer>
      <Button text label="Leave it as it is" @click="setUp.dismiss()" />
      <Button v-if="setUp.proposal?.changes" label="Apply" autofocus :disabled="busy" @click="agree" />
    </template>
  </Dialog>
</template>

<style scoped>
.notes {
  margin: 0 0 8px;
  padding-left: 16px;
}
</style>
