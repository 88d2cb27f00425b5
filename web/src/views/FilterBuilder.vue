<script setup lang="ts">
import { computed } from 'vue'
import type { Condition, Filter } from '@/api/types'
import { useProgram } from '@/line/program'
import type { Choice } from '@/ui/matching'
import { choicesOf } from './choices'
import { useViews } from './views'

/** Conditions that are chosen word by word, so that they read as a sentence. */
const store = useProgram()
const views = useViews()
/** Without one, everything is kept. */
const filter = defineModel<Filter | undefined>({ required: true })
/** What it says as a sentence, or what is wrong with it: as the server answered. */
defineProps<{ sentence?: string; failure?: string; nothing?: string }>()
const conditions = computed(() => filter.value?.conditions ?? [])
const any = computed({
  get: () => !!filter.value?.any,
  set: (value) => set(conditions.value, value),
})

function set(next: Condition[], all = any.value): void {
  filter.value = { any: all, conditions: next }
}
const change = (at: number, condition: Condition) =>
  set(conditions.value.map((c, i) => (i === at ? condition : c)))

const comparisonsOf = (field: string) => {
  const sort = views.fields.get(field)?.sort
  return (views.vocabulary?.comparisons ?? []).filter((c) => sort && c.sorts.includes(sort))
}
const takes = (c: Condition) => comparisonsOf(c.field).find((x) => x.is === c.is)?.values ?? 0

/** Readiness reads better in words of its own. */
const words = (field: string, is: string, usual: string) =>
  (field === 'readiness' && views.vocabulary?.readiness[is]) || usual

const lacks = computed<Choice[]>(() =>
  (views.vocabulary?.lacks ?? []).map((x) => ({ value: x.code, label: x.words })),
)

function choices(field: string): Choice[] | undefined {
  if (field === 'readiness') return lacks.value
  if (field === 'tags')
    return [...new Set((store.program.items ?? []).flatMap((i) => i.tags ?? []))]
      .sort()
      .map((value) => ({ value, label: value }))
  if (field === 'iteration')
    return (store.program.teams ?? []).flatMap((t) =>
      (t.iterations ?? []).map((it) => ({ value: it.key, label: it.name ?? it.key })),
    )
  return choicesOf(field, store.program)?.filter((c) => c.value)
}

function field(at: number, name: string): void {
  change(at, { field: name, is: comparisonsOf(name)[0]?.is ?? 'filled', values: [] })
}
const add = () => set([...conditions.value, { field: 'team', is: 'is', values: [] }])
const remove = (at: number) => set(conditions.value.filter((_, i) => i !== at))
const toggle = (at: number, c: Condition, value: string) => {
  const values = c.values ?? []
  change(at, {
    ...c,
    values: values.includes(value) ? values.filter((v) => v !== value) : [...values, value],
  })
}
const text = (event: Event) => (event.target as HTMLInputElement).value
const label = (c: Condition) =>
  (c.values ?? []).map((v) => choices(c.field)?.find((x) => x.value === v)?.label ?? v).join(' or ')
</script>

<template>
  <div class="filter">
    <p class="lead">
      Items for which
      <select v-model="any" aria-label="All or any">
        <option :value="false">all of these hold</option>
        <option :value="true">any of these holds</option>
      </select>
    </p>
    <div v-for="(c, i) in conditions" :key="i" class="condition">
      <span class="quiet">{{ i === 0 ? 'where' : any ? 'or' : 'and' }}</span>
      <select :value="c.field" aria-label="Field" @change="field(i, text($event))">
        <option v-for="f in views.vocabulary?.fields" :key="f.name" :value="f.name">
          {{ f.name === 'readiness' ? 'Readiness' : f.title }}
        </option>
      </select>
      <select :value="c.is" aria-label="Comparison" @change="change(i, { ...c, is: text($event) })">
        <option v-for="k in comparisonsOf(c.field)" :key="k.is" :value="k.is">
          {{ words(c.field, k.is, k.words) }}
        </option>
      </select>
      <template v-if="takes(c)">
        <details v-if="choices(c.field)" class="values">
          <summary>{{ label(c) || 'choose…' }}</summary>
          <div class="list">
            <label v-for="v in choices(c.field)" :key="v.value" class="check"
              ><input
                type="checkbox"
                :checked="c.values?.includes(v.value)"
                @change="toggle(i, c, v.value)"
              /><span>{{ v.label }}</span></label
            >
          </div>
        </details>
        <input
          v-else
          v-typing
          class="in"
          aria-label="Value"
          :value="c.values?.[0] ?? ''"
          :placeholder="views.fields.get(c.field)?.sort === 'day' ? 'yesterday, 7 days ago, 2027-06-25' : ''"
          @change="change(i, { ...c, values: text($event).trim() ? [text($event).trim()] : [] })"
        />
      </template>
      <span v-else />
      <button class="round" :aria-label="`Drop condition ${i + 1}`" @click="remove(i)">
        <i class="pi pi-times" aria-hidden="true" />
      </button>
    </div>
    <p v-if="!conditions.length" class="quiet">{{ nothing ?? 'Nothing is left out yet.' }}</p>
    <div class="buttons">
      <button class="chip" @click="add">Add a condition</button>
      <button v-if="conditions.length" class="chip" @click="set([])">Drop all</button>
    </div>
    <p v-if="sentence" class="sentence">
      Shows items: <b>{{ sentence }}</b>
    </p>
    <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
  </div>
</template>

<style scoped>
.filter {
  display: grid;
  gap: 7px;
  width: 620px;
}

p {
  margin: 0;
}

.condition {
  display: grid;
  grid-template-columns: 46px 120px 140px 1fr 24px;
  gap: 6px;
  align-items: start;
}

.condition > .quiet {
  padding-top: 4px;
  text-align: right;
}

select {
  height: 26px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--panel);
  color: inherit;
  font: inherit;
}

.in {
  height: 26px;
}

.values {
  position: relative;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--panel);
  padding: 2px 8px;
}

summary {
  cursor: pointer;
}

.list {
  max-height: 190px;
  overflow-y: auto;
}

.check {
  min-height: 24px;
}

.buttons {
  margin: 0;
  justify-content: flex-start;
}

.sentence {
  padding-top: 6px;
  border-top: 1px solid var(--rule);
}
</style>
