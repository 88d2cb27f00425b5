<script setup lang="ts">
import { computed } from 'vue'
import type { OwedNeed } from '@/api/types'
import { count } from '@/ui/format'
import type { NeedWord } from '@/line/needWords'
import { useProgram } from '@/line/program'
import OwedList from './OwedList.vue'

/** What somebody owes others beside what they wait for: what they have to answer first. */
const props = defineProps<{
  owed: OwedNeed[]
  of: { team: string; person: string }
  name: (key: string) => string
  chance: (o: OwedNeed) => number | undefined
  words: (o: OwedNeed) => { yes?: NeedWord; others: NeedWord[] }
}>()
const emit = defineEmits<{
  say: [o: OwedNeed, word: NeedWord, said: { date?: string; why?: string }]
  of: [of: { team?: string; person?: string }]
}>()
const store = useProgram()
const sides = computed(() =>
  [
    {
      title: 'Owed',
      what: 'what others wait for',
      none: 'Nobody waits for any of it.',
      owed: props.owed.filter((o) => o.owes),
    },
    {
      title: 'Waited for',
      what: 'what others give',
      none: 'It waits for nobody.',
      owed: props.owed.filter((o) => o.awaits),
    },
  ].map((side) => ({
    ...side,
    counts: [
      count(side.owed.length, 'need'),
      side.owed.some((o) => o.ours) && `${side.owed.filter((o) => o.ours).length} to answer`,
      side.owed.some((o) => o.overdue) && `${side.owed.filter((o) => o.overdue).length} overdue`,
    ]
      .filter(Boolean)
      .join(' · '),
  })),
)
/** Everybody of the program, by name. */
const people = computed(() => [...(store.program.people ?? [])].sort((a, b) => a.name.localeCompare(b.name)))
const chosen = computed(() =>
  props.of.team ? `team ${props.of.team}` : props.of.person ? `person ${props.of.person}` : 'mine',
)
function choose(event: Event): void {
  const [kind, key] = (event.target as HTMLSelectElement).value.split(/ (.*)/)
  emit('of', kind === 'team' ? { team: key } : kind === 'person' ? { person: key } : {})
}
</script>

<template>
  <div class="head">
    <h2>What is owed, and waited for</h2>
    <label
      >by
      <select class="in" :value="chosen" @change="choose">
        <option value="mine">me, and the teams I lead</option>
        <optgroup label="Teams">
          <option v-for="t in store.program.teams" :key="t.key" :value="`team ${t.key}`">{{ t.name }}</option>
        </optgroup>
        <optgroup v-if="people.length" label="People: their items, and the teams they lead">
          <option v-for="p in people" :key="p.key" :value="`person ${p.key}`">{{ p.name }}</option>
        </optgroup>
      </select></label
    >
  </div>
  <div class="sides">
    <section v-for="side in sides" :key="side.title" tabindex="0" :aria-label="side.title">
      <h3>
        {{ side.title }} <span class="quiet small">{{ side.what }}</span>
      </h3>
      <p class="quiet small" role="status">{{ side.counts }}</p>
      <p v-if="!side.owed.length">{{ side.none }}</p>
      <OwedList
        v-else
        :owed="side.owed"
        :name="name"
        :chance="chance"
        :words="words"
        @say="(o, word, said) => emit('say', o, word, said)"
      />
    </section>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  gap: 12px;
  align-items: baseline;
  padding: 10px 16px 0;
}

h2 {
  margin: 0;
  font-size: 16px;
}

label {
  display: flex;
  gap: 8px;
  align-items: center;
}

h3 {
  margin: 0;
  font-size: 15px;
}

h3 .quiet {
  font-weight: 400;
}

.sides {
  display: grid;
  flex: 1;
  grid-template-columns: 1fr 1fr;
  min-height: 0;
}

section {
  min-width: 0;
  padding: 8px 16px 12px;
  overflow: auto;
}

section + section {
  border-left: 1px solid var(--rule);
}

section > p {
  margin: 0 0 10px;
}
</style>
