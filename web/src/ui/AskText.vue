<script setup lang="ts">
import { useId } from 'vue'
import MentionField from './MentionField.vue'

/** Asks for a line of text, for a yes, or for one of a few answers, in place; Escape leaves it. */
defineProps<{
  label: string
  go?: string
  /** What there is to choose from, where it is no text. */
  answers?: { value: string; text: string }[]
  leave?: string
  /** Whom an @ in the text may mention; missing: nobody. */
  people?: { key: string; name: string }[]
}>()
const text = defineModel<string>()
const emit = defineEmits<{ keep: [answer?: string]; leave: [] }>()
const id = useId()
</script>

<template>
  <form class="ask" @submit.prevent="emit('keep', answers?.[0]?.value)" @keydown.esc.stop="emit('leave')">
    <template v-if="text === undefined">
      <span class="small" role="status">{{ label }}</span>
      <button v-focus type="submit" class="plain-button">{{ answers?.[0]?.text ?? go }}</button>
      <button
        v-for="a in answers?.slice(1)"
        :key="a.value"
        type="button"
        class="plain-button"
        @click="emit('keep', a.value)"
      >
        {{ a.text }}
      </button>
    </template>
    <template v-else>
      <label :for="id" class="small">{{ label }}</label>
      <MentionField v-if="people" :id="id" v-model="text" v-focus maxlength="300" :people="people" />
      <input v-else :id="id" v-model="text" v-focus class="in" maxlength="300" />
      <button type="submit" class="plain-button">{{ go }}</button>
    </template>
    <button v-if="leave" type="button" class="plain-button" @click="emit('leave')">{{ leave }}</button>
  </form>
</template>

<style scoped>
.ask {
  display: flex;
  gap: 8px;
  align-items: center;
  z-index: 1;
  padding: 1px 0;
  background: var(--panel);
}

label {
  white-space: nowrap;
}

.in {
  flex: 1;
  min-width: 80px;
}
</style>
