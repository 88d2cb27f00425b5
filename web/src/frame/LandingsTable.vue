<script setup lang="ts">
import type { Landing, Outcome } from '@/api/types'
import { landingRange } from '@/line/landingRange'
import { useProgram } from '@/line/program'
import { percent } from '@/ui/format'

/** When releases land as it is, and would land. */
defineProps<{ landings: NonNullable<Outcome['landings']> }>()
const store = useProgram()
const chanceOf = (l: Landing) => (l.chance === undefined ? 'no due date' : percent(l.chance))
const landsOf = (l: Landing) => (l.left ? landingRange(l, store.todayDay) : 'nothing left to do')
const change = (was: string, now: string) => (was === now ? now : `${was} → ${now}`)
const late = (l: Landing) => (l.expectedLateDays < 0.05 ? 'none' : `${l.expectedLateDays.toFixed(1)} days`)
</script>

<template>
  <table class="table">
    <thead>
      <tr>
        <th>Release</th>
        <th class="n">On time</th>
        <th>Lands, 50 to 85 %</th>
        <th class="n">Expected late</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="{ before, after } in landings" :key="after.key">
        <td>{{ store.releases.get(after.key)?.name ?? after.key }}</td>
        <td :class="['n', { flag: (after.chance ?? 0) < (before.chance ?? 0) - 0.005 }]">
          {{ change(chanceOf(before), chanceOf(after)) }}
        </td>
        <td>{{ change(landsOf(before), landsOf(after)) }}</td>
        <td class="n">{{ change(late(before), late(after)) }}</td>
      </tr>
    </tbody>
  </table>
</template>
