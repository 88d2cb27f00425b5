<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { useProgram } from '@/line/program'

/** What undo or redo cannot do, and the offer to leave it and go on. */
const store = useProgram()
</script>

<template>
  <Dialog
    :visible="!!store.stuck"
    modal
    :header="store.stuck?.which === 'redo' ? 'This cannot be done again' : 'This cannot be taken back'"
    :style="{ width: '480px' }"
    @update:visible="store.stuck = undefined"
  >
    <p>
      <b>{{ store.stuck?.label }}</b>
    </p>
    <p>{{ store.stuck?.why }}</p>
    <p class="quiet">
      Stepping past it leaves it as it is;
      {{ store.stuck?.which === 'redo' ? 'redo' : 'undo' }} goes on with what you did before it.
    </p>
    <template #footer>
      <Button text label="Leave it" @click="store.stuck = undefined" />
      <Button label="Step past it" autofocus @click="store.stepPast()" />
    </template>
  </Dialog>
</template>
