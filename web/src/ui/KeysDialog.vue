<script setup lang="ts">
import Dialog from 'primevue/dialog'

/** The keys of a stage, and what each does. */
defineProps<{ keys: [keys: string[], text: string][] }>()
const visible = defineModel<boolean>('visible', { required: true })
</script>

<template>
  <Dialog v-model:visible="visible" header="Keys" modal dismissable-mask :style="{ width: '460px' }">
    <table>
      <tbody>
        <tr v-for="[names, text] in keys" :key="text">
          <th scope="row">
            <template v-for="key in names" :key="key"
              ><kbd>{{ key }}</kbd
              >&nbsp;</template
            >
          </th>
          <td>{{ text }}</td>
        </tr>
      </tbody>
    </table>
  </Dialog>
</template>

<style scoped>
th {
  text-align: left;
  white-space: nowrap;
  padding: 3px 16px 3px 0;
}
</style>
