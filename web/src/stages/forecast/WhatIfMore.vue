<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { WhenAsked } from '@/api/types'
import DateField from '@/ui/DateField.vue'
import { shortDate } from '@/ui/dates'
import { useProgram } from '@/line/program'

/** What else may be supposed: people, items, when it begins, and which of the past counts. */
const props = defineProps<{ teams: string[]; release?: string }>()
type If = NonNullable<WhenAsked['if']>
const asIf = defineModel<If>({ required: true })
const store = useProgram()
const day = (date?: string) => shortDate(date, store.todayDay)
const put = (some: If) => (asIf.value = { ...asIf.value, ...some })
/** A list, or nothing where it is empty. */
const some = <T,>(list: T[]) => (list.length ? list : undefined)
const value = (event: Event) => (event.target as HTMLInputElement).value

const from = ref(store.today)
const teamName = (key: string) => store.teams.get(key)?.name ?? key
const people = computed(() => {
  const of = props.teams.flatMap((key) => store.teams.get(key)?.members ?? []).map((m) => m.person)
  return (store.program.people ?? []).filter((p) => of.includes(p.key))
})
const personName = (key: string) => people.value.find((p) => p.key === key)?.name ?? key
/** Who joins ("more:" and a team) or is away ("away:" and a person). */
const who = ref('')
function change(): void {
  const [what, key] = who.value.split(/:(.*)/)
  who.value = ''
  if (what === 'more') put({ more: [...(asIf.value.more ?? []), { team: key, share: 1, from: from.value }] })
  else if (what === 'away') put({ away: [...(asIf.value.away ?? []), { person: key, from: from.value }] })
}
const changes = computed(() => [
  ...(asIf.value.more ?? []).map((m, i) => ({
    text: `Somebody more in ${teamName(m.team)} from ${day(m.from)}`,
    drop: () => put({ more: some(asIf.value.more!.filter((_, k) => k !== i)) }),
  })),
  ...(asIf.value.away ?? []).map((a, i) => ({
    text: `${personName(a.person)} away from ${day(a.from)}`,
    drop: () => put({ away: some(asIf.value.away!.filter((_, k) => k !== i)) }),
  })),
])

/** Items are written as their keys. */
const fields = computed(() => [
  { field: 'out' as const, name: 'Without items' },
  ...(props.release ? [{ field: 'in' as const, name: 'With items too' }] : []),
])
const wrong = ref('')
function items(field: 'out' | 'in', written: string): void {
  const keys = [...store.items.keys()]
  const found = written
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map((w) => ({ w, key: keys.find((k) => k.toLowerCase() === w.toLowerCase()) }))
  const unknown = found.find((f) => !f.key)
  wrong.value = unknown ? `There is no item ${unknown.w}.` : ''
  if (!unknown) put({ [field]: some(found.map((f) => f.key!)) })
}
const lasts = [3, 4, 6, 8, 12]
const spreads = [
  [1.25, 'a quarter more'],
  [1.5, 'half as much again'],
  [2, 'twice as much'],
] as const
// What was written about other work goes with it.
watch(
  () => [asIf.value.out, asIf.value.in],
  ([out, into]) => {
    if (!out && !into) wrong.value = ''
  },
)
</script>

<template>
  <details>
    <summary>More</summary>
    <div class="more">
      <ul v-if="changes.length" class="plain" aria-label="Who joins and who is away">
        <li v-for="(c, i) in changes" :key="i">
          {{ c.text }}
          <button class="round" :aria-label="`Not: ${c.text}`" @click="c.drop">
            <i class="pi pi-times" aria-hidden="true" />
          </button>
        </li>
      </ul>
      <div class="field">
        <label for="if-from">From</label>
        <DateField id="if-from" v-model="from" :min="store.today" />
      </div>
      <div class="field">
        <label for="if-people">People</label>
        <select id="if-people" v-model="who" class="in">
          <option value="">who joins or is away…</option>
          <optgroup label="Somebody more in">
            <option v-for="t in teams" :key="t" :value="`more:${t}`">{{ teamName(t) }}</option>
          </optgroup>
          <optgroup label="Away">
            <option v-for="p in people" :key="p.key" :value="`away:${p.key}`">{{ p.name }}</option>
          </optgroup>
        </select>
        <button class="plain-button" :disabled="!who" @click="change">Suppose so</button>
      </div>
      <div class="field">
        <label for="if-begin">What has not begun waits until</label>
        <DateField
          id="if-begin"
          :model-value="asIf.begin"
          :min="store.today"
          @update:model-value="put({ begin: $event || undefined })"
        />
      </div>
      <div v-for="f in fields" :key="f.field" class="field">
        <label :for="`if-${f.field}`">{{ f.name }}</label>
        <input
          :id="`if-${f.field}`"
          v-typing
          class="in"
          placeholder="their keys"
          :value="asIf[f.field]?.join(', ')"
          @change="items(f.field, value($event))"
        />
      </div>
      <p v-if="wrong" role="alert" class="failure small">{{ wrong }}</p>
      <div class="field">
        <label for="if-last">Past iterations that count</label>
        <select
          id="if-last"
          class="in"
          :value="asIf.last ?? ''"
          @change="put({ last: Number(value($event)) || undefined })"
        >
          <option value="">all that do</option>
          <option v-for="n in lasts" :key="n" :value="n">the last {{ n }}</option>
        </select>
      </div>
      <div class="field">
        <label for="if-spread">Paces vary</label>
        <select
          id="if-spread"
          class="in"
          :value="asIf.spread ?? ''"
          @change="put({ spread: Number(value($event)) || undefined })"
        >
          <option value="">as they did</option>
          <option v-for="[n, words] in spreads" :key="n" :value="n">{{ words }}</option>
        </select>
      </div>
    </div>
  </details>
</template>

<style scoped>
.more {
  display: grid;
  gap: 8px;
  margin-top: 6px;
}

summary {
  cursor: pointer;
}

li {
  display: flex;
  gap: 6px;
  align-items: center;
  justify-content: space-between;
  font-size: 13px;
}

p,
ul {
  margin: 0;
}

ul {
  padding: 0;
  list-style: none;
}
</style>
