<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { keyList } from './useKeys'

const visible = defineModel<boolean>('visible', { required: true })
</script>

<template>
  <Dialog v-model:visible="visible" header="Keys" modal dismissable-mask :style="{ width: '460px' }">
    <table>
      <tbody>
        <tr v-for="[keys, text] in keyList" :key="text">
          <th scope="row">
            <template v-for="key in keys" :key="key"
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
