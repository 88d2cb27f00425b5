<script setup lang="ts">
import AskText from '@/ui/AskText.vue'
import { useProgram } from '@/line/program'
import { useTrack, type Asked } from './track'

/** What is asked about an item: what blocks it, or what is to be known before it goes to a step. */
const props = defineProps<{ asked: Asked }>()
const track = useTrack()
const store = useProgram()

/** The item takes the focus again at once, whatever was answered: the next key may come before the server has heard of it. */
async function answered(make: boolean, value?: string): Promise<void> {
  const key = props.asked.item
  const did = make ? track.reply(value) : undefined
  track.asked = undefined
  await track.focus(key)
  if (did) await track.stayOn(key, did)
}
</script>

<template>
  <AskText
    v-if="asked.of?.ask.answers.length"
    :label="asked.of.ask.text"
    :answers="asked.of.ask.answers"
    leave="Cancel"
    @keep="answered(true, $event)"
    @leave="answered(false)"
  />
  <AskText
    v-else
    v-model="track.asked!.text"
    :label="asked.of?.ask.text ?? 'Blocked by (empty: it is not)'"
    :go="asked.of ? 'Send back' : 'Keep'"
    :people="asked.of ? (store.program.people ?? []) : undefined"
    @keep="answered(true)"
    @leave="answered(false)"
  />
</template>
