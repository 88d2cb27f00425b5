<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, reactive } from 'vue'
import { answer, client } from '@/api/client'
import { shortDate } from '@/ui/dates'
import { count, percent, sized } from '@/ui/format'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import { useTrack } from './track'

/** Starts iterations, of several teams at once: what each commits to, and what may come in its way. */
const props = defineProps<{ team: string }>()
const emit = defineEmits<{ close: [] }>()
const store = useProgram()
const track = useTrack()
const proposals = useProposals()

const starts = useAnswer(
  () => answer(client.GET('/api/v1/programs/{id}/starts', { params: { path: { id: store.id } } })),
  [() => store.revision],
)
const chanceOf = computed(() => new Map(starts.answer.value?.map((s) => [s.item, s] as const)))

const chosen = reactive(new Set([props.team]))
const goals = reactive<Record<string, string>>({})

/** The iterations that may be started, with what stands in them. */
const list = computed(() =>
  track.all.flatMap((under) => {
    const team = store.teams.get(under.team)
    const it = team?.iterations?.find((x) => x.key === under.iteration)
    const facts = store.iterationFacts.get(under.team, under.iteration)
    const may = store.may({
      op: 'set',
      kind: 'iteration',
      in: under.team,
      key: under.iteration,
      field: 'state',
    })
    if (!team || !it || !facts || it.state === 'open' || it.end < store.today || !may) return []
    const keys = under.courses.map((c) => c.item)
    return [
      {
        team,
        it,
        facts,
        items: keys.length,
        unready: keys.filter((key) => store.itemFacts.get(key)?.lacks?.length),
        waiting: keys.flatMap((key) => {
          const start = chanceOf.value.get(key)
          return start ? [start] : []
        }),
      },
    ]
  }),
)
const starting = computed(() => list.value.filter((x) => chosen.has(x.team.key)))

async function start(): Promise<void> {
  await proposals.propose(
    {
      do: 'start-iterations',
      iterations: starting.value.map(({ team, it }) => ({
        team: team.key,
        key: it.key,
        goal: goals[team.key]?.trim() || undefined,
      })),
    },
    { atOnce: true, agreed: () => emit('close') },
  )
}
const tick = (key: string) => void (chosen.has(key) ? chosen.delete(key) : chosen.add(key))
</script>

<template>
  <Dialog visible modal header="Start iterations" :style="{ width: '720px' }" @update:visible="emit('close')">
    <form class="form" @submit.prevent="start">
      <p class="quiet">What stands in an iteration as it starts is what its team commits to.</p>
      <fieldset v-for="x in list" :key="x.team.key" class="one">
        <legend>
          <label class="check">
            <input type="checkbox" :checked="chosen.has(x.team.key)" @change="tick(x.team.key)" />
            <b>{{ x.team.name }} {{ x.it.name || x.it.key }}</b>
            <span class="quiet">
              {{ shortDate(x.it.start, store.todayDay) }} – {{ shortDate(x.it.end, store.todayDay) }}
            </span>
          </label>
        </legend>
        <p>
          {{ count(x.items, 'item') }}, {{ sized(x.facts.load, x.team) }} of
          {{ sized(x.facts.capacity, x.team) }}
          <b v-if="x.facts.over" class="over">over capacity</b>
        </p>
        <p v-if="x.unready.length">
          Not ready: {{ x.unready.slice(0, 8).join(', ')
          }}{{ x.unready.length > 8 ? ` and ${x.unready.length - 8} more` : '' }}
        </p>
        <ul v-if="x.waiting.length" class="waits">
          <li v-for="w in x.waiting.slice(0, 6)" :key="w.item">
            {{ w.item }} waits for {{ w.blocker }}: {{ percent(w.chance) }} that it can start here
          </li>
          <li v-if="x.waiting.length > 6">and {{ x.waiting.length - 6 }} more that wait</li>
        </ul>
        <div v-if="chosen.has(x.team.key)" class="field">
          <label :for="`goal-${x.team.key}`">Goal, in a sentence</label>
          <input
            :id="`goal-${x.team.key}`"
            class="in"
            maxlength="300"
            :value="goals[x.team.key] ?? x.it.goal ?? ''"
            @input="goals[x.team.key] = ($event.target as HTMLInputElement).value"
          />
        </div>
      </fieldset>
      <div class="buttons">
        <Button type="button" outlined label="Cancel" @click="emit('close')" />
        <Button
          type="submit"
          :label="starting.length > 1 ? `Start ${starting.length} iterations` : 'Start'"
          :disabled="!starting.length || proposals.working || !store.connected"
        />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.one {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 4px 12px 10px;
  border: 1px solid var(--rule);
  border-radius: 8px;
}

p,
.waits {
  margin: 0;
}

.waits {
  padding-left: 18px;
}

.over {
  color: var(--over);
}
</style>
