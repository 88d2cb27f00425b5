<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { computed, reactive, ref, shallowRef } from 'vue'
import { answer, client } from '@/api/client'
import type { ScreenLink, ScreenSettings } from '@/api/types'
import { timeText } from '@/ui/dates'
import { count } from '@/ui/format'
import MadeLink from '@/ui/MadeLink.vue'
import { useAttempt } from '@/ui/useAttempt'
import { useCardTitles } from '../cards/useCard'
import { useReport } from '../report'

/** The screens that show a page on a wall without an account: made, and ended. */
const report = useReport()
const emit = defineEmits<{ close: [] }>()
const path = { id: report.program, page: report.page.head?.id ?? 0 }
const list = shallowRef<ScreenLink[]>()
const made = ref('')
const titleOf = useCardTitles()
const { failure, attempt } = useAttempt()
const wanted = reactive({ single: true, seconds: 20, dims: true, dimFrom: 20, dimTo: 6 })
const chosen = ref(report.page.cards.map((c) => c.key))
const hours = Array.from({ length: 24 }, (_, i) => i)
const clock = (hour: number) => `${hour}:00`

async function bring(): Promise<void> {
  list.value = await answer(client.GET('/api/v1/programs/{id}/pages/{page}/screens', { params: { path } }))
}
void attempt(bring)
const body = computed<ScreenSettings>(() => ({
  cards: chosen.value.length === report.page.cards.length ? undefined : chosen.value,
  single: wanted.single || undefined,
  seconds: wanted.seconds,
  dimFrom: wanted.dims ? wanted.dimFrom : 0,
  dimTo: wanted.dims ? wanted.dimTo : 0,
}))
async function make(): Promise<void> {
  made.value = ''
  await attempt(async () => {
    const screen = await answer(
      client.POST('/api/v1/programs/{id}/pages/{page}/screens', { params: { path }, body: body.value }),
    )
    made.value = `${window.location.origin}${screen.path}`
    await bring()
  })
}
async function end(id: number): Promise<void> {
  await attempt(async () => {
    await answer(
      client.DELETE('/api/v1/programs/{id}/pages/{page}/screens/{screen}', {
        params: { path: { ...path, screen: id } },
      }),
    )
    made.value = ''
    await bring()
  })
}
function told({ screen, ...link }: ScreenLink): string {
  const shows = screen.cards?.length ? count(screen.cards.length, 'card') : 'All cards'
  const how = screen.single ? 'one at a time' : 'as laid out'
  const dim =
    screen.dimFrom === screen.dimTo ? '' : `, dim from ${clock(screen.dimFrom)} to ${clock(screen.dimTo)}`
  const seen = link.seenAt ? `seen last ${timeText(link.seenAt)}` : 'not seen yet'
  return `${shows}, ${how}, ${screen.seconds} s each${dim}. Made ${timeText(link.madeAt)} by ${link.by}; ${seen}.`
}
</script>

<template>
  <Dialog
    visible
    modal
    :header="`Screens that show “${report.page.name}”`"
    :style="{ width: '620px' }"
    @update:visible="emit('close')"
  >
    <p>
      A screen on a wall shows this page, and nothing else, without an account: live, in large type. It does
      so until it is ended, and as long as who made it belongs to the program and sees the page.
    </p>
    <ul v-if="list?.length" class="links-in" aria-label="Screens">
      <li v-for="l in list" :key="l.id">
        <span>{{ told(l) }}</span>
        <button class="plain-button" @click="end(l.id)">End it</button>
      </li>
    </ul>
    <p v-else-if="list" class="quiet">There is none.</p>
    <MadeLink v-if="made" :value="made" />
    <form class="form" aria-label="A new screen" @submit.prevent="make">
      <div class="row">
        <label class="check"
          ><input v-model="wanted.single" type="radio" name="how" :value="true" autofocus /> one card at a
          time, read from across a room</label
        >
        <label class="check"
          ><input v-model="wanted.single" type="radio" name="how" :value="false" /> as the page is laid
          out</label
        >
      </div>
      <div class="row">
        <label class="check"
          >each for
          <input v-model.number="wanted.seconds" class="in n" type="number" min="5" max="3600" />
          seconds</label
        >
        <label class="check"><input v-model="wanted.dims" type="checkbox" /> dim at night</label>
        <template v-if="wanted.dims">
          <label class="check"
            >from
            <select v-model="wanted.dimFrom" class="chip">
              <option v-for="h in hours" :key="h" :value="h">{{ clock(h) }}</option>
            </select></label
          >
          <label class="check"
            >to
            <select v-model="wanted.dimTo" class="chip">
              <option v-for="h in hours" :key="h" :value="h">{{ clock(h) }}</option>
            </select></label
          >
        </template>
      </div>
      <fieldset class="cards">
        <legend class="label">Cards</legend>
        <label v-for="c in report.page.cards" :key="c.key" class="check"
          ><input v-model="chosen" type="checkbox" :value="c.key" /> {{ titleOf(c) }}</label
        >
      </fieldset>
      <p v-if="failure" role="alert" class="failure">{{ failure }}</p>
      <div class="buttons">
        <button class="plain-button main" :disabled="!chosen.length">Make a screen</button>
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
p {
  margin: 0 0 8px;
}

.form {
  display: grid;
  gap: 8px;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
}

.n {
  width: 76px;
}

.cards {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 16px;
  max-height: 150px;
  margin: 0;
  padding: 0;
  border: 0;
  overflow-y: auto;
}
</style>
