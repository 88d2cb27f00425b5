<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { ref, watch } from 'vue'
import type { Landing } from '@/api/types'
import { landingRange } from '@/line/landingRange'
import { percent } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useSetUp } from './setup'
import EffectList from './EffectList.vue'

/** What an edit would do, before it is made. */
const setUp = useSetUp()
const store = useProgram()
const busy = ref(false)

const chanceOf = (l: Landing) => (l.chance === undefined ? 'no due date' : percent(l.chance))
const landsOf = (l: Landing) => (l.left ? landingRange(l, store.todayDay) : 'nothing left to do')
const change = (was: string, now: string) => (was === now ? now : `${was} → ${now}`)
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
      <fieldset v-if="setUp.proposal.ask" class="ask">
        <legend>{{ setUp.proposal.ask.text }}</legend>
        <label v-for="a in setUp.proposal.ask.answers" :key="a.value" class="check">
          <input
            type="radio"
            name="ask"
            :value="a.value"
            :checked="a.value === setUp.proposal.ask.answer"
            :disabled="setUp.working"
            @change="setUp.reply(a.value)"
          />
          {{ a.text }}
        </label>
      </fieldset>
      <table v-if="setUp.proposal.landings?.length" class="table">
        <thead>
          <tr>
            <th>Release</th>
            <th class="n">On time</th>
            <th>Lands, even odds to 85 %</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ before, after } in setUp.proposal.landings" :key="after.key">
            <td>{{ store.releases.get(after.key)?.name ?? after.key }}</td>
            <td :class="['n', { flag: (after.chance ?? 0) < (before.chance ?? 0) - 0.005 }]">
              {{ change(chanceOf(before), chanceOf(after)) }}
            </td>
            <td>{{ change(landsOf(before), landsOf(after)) }}</td>
          </tr>
        </tbody>
      </table>
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

.ask {
  display: grid;
  gap: 4px;
  margin-bottom: 12px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 8px 12px;
}
</style>
