<script setup lang="ts">
import { ofLine } from '@/api/inView'
import Dialog from 'primevue/dialog'
import { computed, reactive, watch } from 'vue'
import { toDate } from '@/ui/dates'
import { useProgram } from '@/line/program'
import DateField from '@/ui/DateField.vue'

/** Planned against available time as a file. */
const visible = defineModel<boolean>('visible', { required: true })
const store = useProgram()
const form = reactive({ from: '', to: '' })
const later = (days: number) => toDate(store.todayDay + days)
watch(visible, () => {
  if (!form.from) Object.assign(form, { from: later(-14), to: later(91) })
})
const address = computed(() => {
  const range = `from=${form.from}&to=${form.to}`
  return (rest: string) => ofLine(`/api/v1/programs/${store.id}/reports/capacity?${range}&${rest}`)
})
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Capacity report" :style="{ width: '420px' }">
    <div class="form">
      <p>
        Planned against available time of the iterations in a range of dates, by team, by role and by person.
      </p>
      <div class="row">
        <div class="field">
          <label for="rep-from">From</label>
          <DateField id="rep-from" v-model="form.from" autofocus />
        </div>
        <div class="field">
          <label for="rep-to">to</label>
          <DateField id="rep-to" v-model="form.to" :min="form.from" />
        </div>
      </div>
      <ul>
        <li><a :href="address('format=xlsx')" download>Spreadsheet (XLSX), all sheets with formulas</a></li>
        <li><a :href="address('format=csv&by=team')" download>By team (CSV)</a></li>
        <li><a :href="address('format=csv&by=role')" download>By role (CSV)</a></li>
        <li><a :href="address('format=csv&by=person')" download>By person (CSV)</a></li>
      </ul>
    </div>
  </Dialog>
</template>

<style scoped>
p,
ul {
  margin: 0;
}

a {
  color: inherit;
}
</style>
