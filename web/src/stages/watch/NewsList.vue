<script setup lang="ts">
import { computed, ref } from 'vue'
import { useNews } from '@/line/news'
import { asDate, timeText, toDay } from '@/ui/dates'
import { useWatch } from './watch'

/** What others did that concerns one, since one last said so. */
const news = useNews()
const watch = useWatch()
const FEW = 5
const all = ref(false)

const list = computed(() =>
  news.programs.flatMap((program) => program.news.map((n) => ({ ...n, program: program.id }))),
)
const shown = computed(() => (all.value ? list.value : list.value.slice(0, FEW)))
const today = (program: number) =>
  watch.programs.find((p) => p.id === program)?.today ?? watch.programs[0]?.today
const when = (at: string, program: number) => timeText(at, asDate(toDay(today(program) ?? at.slice(0, 10))))
</script>

<template>
  <section v-if="list.length || news.failure" aria-label="News">
    <header>
      <h2>
        News <span class="quiet small">{{ list.length }}{{ news.more ? ' or more' : '' }}</span>
      </h2>
      <button class="plain-button" title="N" @click="news.see()">Seen</button>
    </header>
    <p v-if="news.failure" role="alert" class="failure">{{ news.failure }}</p>
    <ul>
      <li
        v-for="n in shown"
        :key="`${n.program}/${n.revision}/${n.item}`"
        :class="{ mention: n.about === 'mentioned' }"
      >
        <span class="at quiet small">{{ when(n.at, n.program) }}</span>
        <p>
          <RouterLink :to="{ name: 'backlog', params: { id: n.program }, query: { item: n.item } }"
            ><b>{{ n.item }}</b> {{ n.title }}</RouterLink
          >
          <span class="said"
            ><b>{{ n.by }}</b> {{ n.text }}</span
          >
        </p>
      </li>
    </ul>
    <p v-if="list.length > FEW" class="small">
      <button class="plain-button" @click="all = !all">
        {{ all ? 'Show the latest alone' : `Show all ${list.length}` }}
      </button>
      <span v-if="all && news.more" class="quiet"> Earlier ones are not told; What changed has them.</span>
    </p>
  </section>
</template>

<style scoped>
header {
  display: flex;
  gap: 8px;
  align-items: baseline;
  margin: 14px 0 6px;
}

h2 {
  margin: 0;
  font-size: 16px;
}

ul {
  margin: 0;
  padding: 0;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--panel);
  list-style: none;
}

li {
  display: grid;
  grid-template-columns: 104px minmax(0, 1fr);
  gap: 8px;
  align-items: baseline;
  padding: 5px 12px;
}

li + li {
  border-top: 1px solid var(--rule);
}

.mention {
  border-left: 3px solid var(--water);
}

p {
  margin: 0;
  overflow-wrap: anywhere;
}

.said {
  display: block;
}

a {
  color: inherit;
}
</style>
