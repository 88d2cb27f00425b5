<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { ref } from 'vue'
import type { PageHead } from '@/api/types'
import { useReport } from './report'

/** Whom a page is for: oneself, or others, to look at or to change; all of the program, or some. */
const report = useReport()
const emit = defineEmits<{ close: [] }>()
const head = report.page.head
const shared = ref<PageHead['shared']>(head?.shared ?? '')
const some = ref(!!head?.people.length)
const people = ref<number[]>([...(head?.people ?? [])])
async function keep(): Promise<void> {
  if (await report.keep({ shared: shared.value, people: shared.value && some.value ? people.value : [] }))
    emit('close')
}
/** Cards of views that one keeps for oneself show nothing to others. */
const own = report.page.cards.filter((c) => c.about?.mine || c.chart?.mine).length
const ways: [PageHead['shared'], string][] = [
  ['', 'for me alone'],
  ['read', 'for others to look at'],
  ['edit', 'for others to look at and change'],
]
</script>

<template>
  <Dialog
    visible
    modal
    :header="`Share “${report.page.name}”`"
    :style="{ width: '440px' }"
    @update:visible="emit('close')"
  >
    <form class="form" @submit.prevent="keep">
      <label v-for="([way, text], i) in ways" :key="way" class="check"
        ><input v-model="shared" type="radio" name="way" :value="way" :autofocus="i === 0" />
        {{ text }}</label
      >
      <template v-if="shared">
        <label class="check"
          ><input v-model="some" type="radio" name="whom" :value="false" /> all who belong to the
          program</label
        >
        <label class="check"><input v-model="some" type="radio" name="whom" :value="true" /> these</label>
        <div v-if="some" class="people">
          <label v-for="p in report.shelf?.people" :key="p.account" class="check"
            ><input v-model="people" type="checkbox" :value="p.account" /> {{ p.name }}</label
          >
          <p v-if="!report.shelf?.people.length" class="quiet">Nobody else belongs to the program.</p>
        </div>
      </template>
      <p v-if="shared && own" class="quiet">
        {{ own === 1 ? 'A card is' : `${own} cards are` }} of views that you keep for yourself: others see
        nothing there until you share the views.
      </p>
      <p v-if="report.failure" role="alert" class="failure">{{ report.failure }}</p>
      <div class="buttons">
        <button type="button" class="plain-button" @click="emit('close')">Leave it</button>
        <button class="plain-button main" :disabled="!!shared && some && !people.length">Share</button>
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 6px;
}

.people {
  display: grid;
  gap: 2px;
  max-height: 220px;
  padding-left: 22px;
  overflow-y: auto;
}
</style>
