<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Outcome, Repeat } from '@/api/types'
import { toDate } from '@/ui/dates'
import { count } from '@/ui/format'
import { freeKey } from '@/ui/keys'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import DateField from '@/ui/DateField.vue'

/** The items that every iteration repeats: kept once, made for many. */
const visible = defineModel<boolean>('visible', { required: true })
const store = useProgram()
const backlog = useBacklog()
const may = computed(() => store.may({ op: 'set', kind: 'program', field: 'repeats' }))
const repeats = computed(() => store.program.repeats ?? [])
const chosen = ref<string[]>([])
const until = ref('')
const draft = ref<Repeat>()
const found = shallowRef<Outcome>()

watch(visible, (open) => {
  if (!open) return
  chosen.value = repeats.value.map((r) => r.key)
  until.value = toDate(store.todayDay + 84)
  draft.value = undefined
  if (!repeats.value.length) begin()
})
let asked = 0
watch([visible, chosen, until, () => store.revision], async ([open]) => {
  const mine = ++asked
  found.value = undefined
  if (!open || !chosen.value.length || !until.value) return
  const plan = await backlog.edit({ do: 'repeat', keys: chosen.value, until: until.value }, { dry: true })
  if (mine === asked) found.value = plan
})
const kinds = ['story', 'defect', 'upkeep', 'enabler', 'spike'] as const
const begin = () => (draft.value = { key: '', title: '', kind: 'upkeep', teams: [] })
const save = (next: Repeat[], label: string) =>
  store.apply(label, [{ op: 'set', kind: 'program', field: 'repeats', value: next }])
async function keep(): Promise<void> {
  const made = draft.value
  if (!made?.title.trim()) return
  const key = freeKey(
    made.title,
    repeats.value.map((r) => r.key),
  )
  const value = {
    ...made,
    key,
    each: made.each || undefined,
    size: (made.size as unknown) === '' ? undefined : made.size,
  }
  if (!(await save([...repeats.value, value], `Repeat ${made.title}`))) return
  draft.value = undefined
  chosen.value = [...chosen.value, key]
}
const remove = (r: Repeat) =>
  save(
    repeats.value.filter((x) => x !== r),
    `Repeat ${r.title} no longer`,
  )
async function make(): Promise<void> {
  if (await backlog.edit({ do: 'repeat', keys: chosen.value, until: until.value })) visible.value = false
}
const names = (r: Repeat) =>
  r.teams?.length ? r.teams.map((t) => store.teams.get(t)?.name ?? t).join(', ') : 'every team'
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Repeated items" :style="{ width: '640px' }">
    <div class="form">
      <p class="quiet">
        What every iteration repeats, such as watch duty or checks. Those that an iteration has already are
        not made again.
      </p>
      <div v-for="r in repeats" :key="r.key" class="one">
        <label class="check"
          ><input v-model="chosen" type="checkbox" :value="r.key" /><span
            >{{ r.title }}
            <span class="quiet"
              >{{ r.kind }}, {{ names(r) }}{{ r.size === undefined ? '' : `, ${r.size} each`
              }}{{ r.each ? ', made by itself with each new iteration' : '' }}</span
            ></span
          ></label
        >
        <button v-if="may" class="round" :aria-label="`Repeat ${r.title} no longer`" @click="remove(r)">
          <i class="pi pi-times" aria-hidden="true" />
        </button>
      </div>
      <form v-if="draft" class="new" @submit.prevent="keep">
        <label class="field wide"
          ><span class="label">Title; {iteration} is its name</span
          ><input v-model="draft.title" autofocus class="in" maxlength="300"
        /></label>
        <label class="field"
          ><span class="label">Kind</span>
          <select v-model="draft.kind" class="in">
            <option v-for="k in kinds" :key="k">{{ k }}</option>
          </select></label
        >
        <label class="field"
          ><span class="label">Size</span
          ><input v-model="draft.size" class="in number" type="number" min="0" step="any"
        /></label>
        <label class="field"
          ><span class="label">Teams; none: every team</span>
          <select v-model="draft.teams" class="in teams" multiple>
            <option v-for="t in store.program.teams" :key="t.key" :value="t.key">{{ t.name }}</option>
          </select></label
        >
        <label class="check wide"
          ><input v-model="draft.each" type="checkbox" /> made by itself with each new iteration</label
        >
        <Button type="submit" size="small" outlined label="Keep" :disabled="!draft.title.trim()" />
      </form>
      <div v-else-if="may"><button class="chip" @click="begin">One more</button></div>
      <label class="field"
        ><span class="label">For iterations that start up to</span><DateField v-model="until"
      /></label>
      <div class="buttons">
        <span class="quiet gap" role="status">{{
          found
            ? found.keys.length
              ? `Makes ${count(found.keys.length, 'item')}.`
              : 'All of them are there already.'
            : ''
        }}</span>
        <Button text label="Close" @click="visible = false" />
        <Button label="Make them" :disabled="!found?.keys.length" @click="make" />
      </div>
    </div>
  </Dialog>
</template>

<style scoped>
p {
  margin: 0;
}

.one {
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
}

.new {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: end;
  padding: 8px;
  border: 1px solid var(--rule);
  border-radius: 8px;
}

.wide {
  flex: 1;
  min-width: 220px;
}

.teams {
  height: 74px;
  width: 170px;
}
</style>
