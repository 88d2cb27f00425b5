<script setup lang="ts" generic="T">
import './forecast.css'

/** An answer: a sentence first, and what there is to it. While it is waited for, that; and what went wrong. */
defineProps<{
  failure?: string
  /** What is being done; empty where nothing is. */
  waiting?: string
  answer: T | undefined
  /** What it is about. */
  lead?: string
  said?: string
}>()
defineSlots<{
  /** What is told beneath the sentence. */
  more?: (given: { answer: NonNullable<T> }) => unknown
  default?: (given: { answer: NonNullable<T> }) => unknown
}>()
</script>

<template>
  <div class="answer">
    <p v-if="failure" role="alert" class="failure">{{ failure }}</p>
    <p v-if="!answer && waiting" role="status" class="quiet">{{ waiting }}</p>
    <template v-if="answer">
      <header>
        <p class="quiet">{{ lead }}</p>
        <div role="status">
          <h2 class="said">{{ said }}</h2>
        </div>
        <slot name="more" :answer="answer" />
      </header>
      <slot :answer="answer" />
    </template>
  </div>
</template>
