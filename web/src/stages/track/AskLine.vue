<script setup lang="ts">
import { computed } from 'vue'
import AskText from '@/ui/AskText.vue'
import { titleOf } from '@/line/course'
import { useProgram } from '@/line/program'
import { useTrack, type Asked } from './track'

/** What is asked about an item: what blocks it, why it is sent back, whether a step may hold more. */
const props = defineProps<{ asked: Asked }>()
const track = useTrack()
const store = useProgram()
const full = computed(() => {
  const step = track.course[props.asked.to ?? 0]
  const team = store.teams.get(store.items.get(props.asked.item)?.team ?? '')
  return `${team?.name} is to have ${step.most} at most in ${titleOf(step)}`
})

/** The item takes the focus again at once, whatever was answered: the next key may come before the server has heard of it. */
async function answered(make: boolean): Promise<void> {
  const key = props.asked.item
  const did = make ? track.reply() : undefined
  track.asked = undefined
  await track.focus(key)
  if (did) await track.stayOn(key, did)
}
</script>

<template>
  <AskText
    v-if="asked.what === 'full'"
    :label="full"
    go="Take it there all the same"
    leave="Leave it"
    @keep="answered(true)"
    @leave="answered(false)"
  />
  <AskText
    v-else-if="asked.what === 'on'"
    label="All its tasks are done."
    :go="`On to ${titleOf(track.course[asked.to ?? 0])}`"
    leave="Leave it"
    @keep="answered(true)"
    @leave="answered(false)"
  />
  <AskText
    v-else
    v-model="track.asked!.text"
    :label="asked.what === 'blocked' ? 'Blocked by (empty: it is not)' : 'Sent back, why'"
    :go="asked.what === 'blocked' ? 'Keep' : 'Send back'"
    :people="asked.what === 'back' ? (store.program.people ?? []) : undefined"
    @keep="answered(true)"
    @leave="answered(false)"
  />
</template>
