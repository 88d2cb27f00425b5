<script setup lang="ts">
import { computed, ref } from 'vue'
import { shortDate } from '@/ui/dates'
import DateField from '@/ui/DateField.vue'
import type { Answered, NeedWord } from './needWords'
import { useProgram } from './program'

/** The next word on a need: another day is offered, it is declined, or asked for again. Escape leaves it. */
const props = defineProps<{ need: Answered; words: NeedWord[] }>()
const emit = defineEmits<{ leave: []; say: [word: NeedWord, said: { date?: string; why?: string }] }>()
const store = useProgram()
const names: Record<NeedWord, string> = {
  agree: 'Agree',
  accept: 'Accept',
  offer: 'Offer another day',
  decline: 'Decline',
  ask: ['asked', 'agreed'].includes(props.need.agreement ?? 'asked') ? 'Ask for another day' : 'Ask again',
}
const sends: Record<NeedWord, string> = {
  agree: 'Agree',
  accept: 'Accept',
  offer: 'Offer it',
  decline: 'Decline it',
  ask: 'Ask',
}
const word = ref<NeedWord>(props.words[0])
const date = ref('')
const why = ref('')
const dated = computed(() => word.value === 'offer' || word.value === 'ask')
const ready = computed(() =>
  word.value === 'offer' ? !!date.value : word.value === 'decline' ? !!why.value.trim() : true,
)
const hint = computed(() =>
  word.value === 'ask'
    ? 'Without a day it is wanted as the plan has it.'
    : word.value === 'offer'
      ? `${props.need.by ? `It is wanted by ${shortDate(props.need.by, store.todayDay)}. ` : ''}The other team accepts, or asks again.`
      : word.value === 'decline'
        ? 'The other team reads why.'
        : '',
)
function send(): void {
  if (!ready.value) return
  emit('say', word.value, {
    ...(dated.value && date.value && { date: date.value }),
    ...(why.value.trim() && { why: why.value.trim() }),
  })
}
</script>

<template>
  <form
    :aria-label="`Answer ${need.needs} for ${need.item}`"
    @submit.prevent="send"
    @keydown.esc.stop="emit('leave')"
  >
    <p v-if="words.length > 1" class="words" role="group" aria-label="What to say">
      <button
        v-for="w in words"
        :key="w"
        type="button"
        class="chip"
        :aria-pressed="word === w"
        @click="word = w"
      >
        {{ names[w] }}
      </button>
    </p>
    <label v-if="dated"
      >{{ word === 'ask' ? 'Wanted by' : 'By' }}
      <DateField v-model="date" :min="store.today" :aria-label="word === 'ask' ? 'Wanted by' : 'Offered for'"
    /></label>
    <label class="wide"
      >{{ word === 'decline' ? 'Why' : 'What to say with it' }}
      <input v-model="why" v-focus class="in" maxlength="500" :required="word === 'decline'"
    /></label>
    <p v-if="hint" class="quiet small hint">{{ hint }}</p>
    <span class="buttons">
      <button type="button" class="plain-button" @click="emit('leave')">Leave it</button>
      <button class="plain-button" :disabled="!ready || !store.connected">{{ sends[word] }}</button>
    </span>
  </form>
</template>

<style scoped>
form {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: end;
  margin-top: 8px;
  padding-top: 8px;
  border-top: 1px solid var(--rule);
}

.words {
  display: flex;
  flex: 1 1 100%;
  gap: 6px;
  margin: 0;
}

label {
  display: grid;
  gap: 2px;
  font-size: 13px;
}

.wide {
  flex: 1 1 220px;
}

.hint {
  flex: 1 1 220px;
  margin: 0;
}

.buttons {
  display: flex;
  gap: 8px;
  margin-left: auto;
}
</style>
