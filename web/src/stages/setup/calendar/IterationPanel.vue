<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, watch } from 'vue'
import { shortDate } from '@/ui/dates'
import { count, sized } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import DateField from '@/ui/DateField.vue'

/** The chosen iteration: everything that dragging can do, and its life. */
const props = defineProps<{ team?: string; iteration?: string }>()
const store = useProgram()
const proposals = useProposals()
const team = computed(() => store.teams.get(props.team ?? ''))
const it = computed(() => team.value?.iterations?.find((x) => x.key === props.iteration))
const facts = computed(() => store.iterationFacts.get(props.team, props.iteration))
const form = reactive({ name: '', end: '', along: true, days: 7, newName: '' })
watch(
  it,
  (now) => now && Object.assign(form, { name: now.name ?? now.key, end: now.end, days: 7, newName: '' }),
  { immediate: true },
)
const ref = () => ({ team: props.team!, key: props.iteration! })
const may = computed(() =>
  store.may({ op: 'set', kind: 'iteration', in: props.team, key: props.iteration, field: 'end' }),
)
const over = computed(() => !!facts.value?.ended)
const started = computed(() => !!facts.value?.started)
const rename = () =>
  store.apply(`Rename ${it.value!.name ?? it.value!.key}`, [
    {
      op: 'set',
      kind: 'iteration',
      in: props.team,
      key: props.iteration,
      field: 'name',
      value: form.name.trim(),
    },
  ])
</script>

<template>
  <section aria-label="Iteration">
    <p v-if="!it || !team" class="quiet">
      Choose an iteration in the picture to start, close or resize it, or to put one before or after it. The
      arrow keys go from one to the next.
    </p>
    <template v-else>
      <h2>
        {{ it.name || it.key }} <span class="quiet">{{ team.name }}</span>
        <span class="tag">{{ it.state || 'planned' }}</span>
      </h2>
      <p class="facts">
        {{ shortDate(it.start, store.todayDay) }} – {{ shortDate(it.end, store.todayDay) }}
        <template v-if="facts">
          · carries {{ sized(facts.load, team) }} of {{ sized(facts.capacity, team) }}</template
        >
        <template v-if="it.completed !== undefined">
          · committed {{ sized(it.committed, team) }}, completed {{ sized(it.completed, team) }}</template
        >
      </p>
      <template v-if="may">
        <div class="row">
          <form class="row" @submit.prevent="rename">
            <div class="field">
              <label for="i-name">Name</label>
              <input id="i-name" v-model="form.name" class="in name" maxlength="80" required />
            </div>
            <Button
              type="submit"
              size="small"
              outlined
              label="Rename"
              :disabled="form.name === (it.name || it.key)"
            />
          </form>
          <form
            v-if="!over"
            class="row"
            @submit.prevent="
              proposals.propose({ do: 'resize-iteration', ...ref(), end: form.end, along: form.along })
            "
          >
            <div class="field">
              <label for="i-end">Last day</label>
              <DateField id="i-end" v-model="form.end" :min="it.start" required />
            </div>
            <select v-model="form.along" class="in along" aria-label="What later iterations do">
              <option :value="true">later ones move along</option>
              <option :value="false">the next gives or takes days</option>
            </select>
            <Button type="submit" size="small" outlined label="Resize…" :disabled="form.end === it.end" />
          </form>
        </div>
        <div class="row">
          <Button
            v-if="it.state !== 'open' && it.state !== 'closed'"
            size="small"
            label="Start…"
            @click="proposals.propose({ do: 'start-iteration', ...ref() })"
          />
          <Button
            v-if="it.state !== 'closed' && started"
            size="small"
            label="Close…"
            title="Notes what was completed, carries over what was not, and opens the next"
            @click="proposals.propose({ do: 'close-iteration', ...ref() })"
          />
          <form
            class="row"
            @submit.prevent="
              proposals.propose({ do: 'insert-iteration', ...ref(), days: form.days, name: form.newName })
            "
          >
            <input
              v-model.number="form.days"
              class="in number"
              type="number"
              min="1"
              max="366"
              aria-label="Days of a new iteration"
              required
            />
            <input
              v-model="form.newName"
              class="in name"
              placeholder="name, or by pattern"
              aria-label="Name of a new iteration"
              maxlength="80"
            />
            <Button type="submit" size="small" outlined label="Insert after…" />
          </form>
          <Button
            v-if="!started"
            size="small"
            outlined
            label="Remove…"
            @click="proposals.propose({ do: 'remove-iteration', ...ref() })"
          />
        </div>
        <p v-if="facts?.unsized" class="quiet small">
          {{ count(facts.unsized, 'item') }} without a size here.
        </p>
      </template>
    </template>
  </section>
</template>

<style scoped>
.facts {
  margin: 2px 0 8px;
}

.row {
  gap: 6px;
  margin-bottom: 6px;
}

.row .row {
  margin: 0;
}

.name {
  width: 120px;
}

.along {
  width: 190px;
}
</style>
