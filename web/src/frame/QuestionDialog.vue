<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { ref, useId, watch } from 'vue'
import { useProgram } from '@/line/program'
import MentionField from '@/ui/MentionField.vue'

/** What the server asks before it does what somebody meant, wherever they said it. */
const store = useProgram()
const text = ref('')
const id = useId()
watch(
  () => store.question,
  () => (text.value = ''),
)
</script>

<template>
  <Dialog
    :visible="!!store.question"
    modal
    :header="store.question?.ask.text"
    :style="{ width: '460px' }"
    @update:visible="store.question?.answer()"
  >
    <form
      v-if="store.question && !store.question.ask.answers.length"
      :id="id"
      @submit.prevent="store.question.answer(text)"
    >
      <MentionField
        v-model="text"
        v-focus
        :aria-label="store.question.ask.text"
        maxlength="300"
        :people="store.program.people ?? []"
      />
    </form>
    <template #footer>
      <Button text label="Cancel" @click="store.question?.answer()" />
      <Button
        v-if="store.question && !store.question.ask.answers.length"
        type="submit"
        :form="id"
        label="Send back"
      />
      <Button
        v-for="(a, i) in store.question?.ask.answers"
        :key="a.value"
        :autofocus="i === 0"
        :outlined="i > 0"
        :label="a.text"
        @click="store.question?.answer(a.value)"
      />
    </template>
  </Dialog>
</template>
