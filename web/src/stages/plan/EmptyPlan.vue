<script setup lang="ts">
import Button from 'primevue/button'
import { useRouter } from 'vue-router'
import { useProgram } from '@/line/program'

const router = useRouter()
const store = useProgram()
</script>

<template>
  <section class="empty">
    <svg viewBox="0 0 300 90" width="300" aria-hidden="true">
      <g fill="var(--basin)" stroke="var(--water)" stroke-dasharray="4 4">
        <rect x="4" y="20" width="68" height="62" />
        <rect x="78" y="20" width="68" height="62" />
        <rect x="152" y="20" width="68" height="62" />
        <rect x="226" y="20" width="68" height="62" />
      </g>
      <path d="M4 20h68M78 20h68M152 20h68M226 20h68" stroke="var(--water)" stroke-width="3" />
    </svg>
    <h2>There is nothing to plan here yet</h2>
    <p>
      This program has no teams. Set up its calendar and teams, or import a program document that brings them.
    </p>
    <div class="row">
      <Button label="Set up the program" @click="router.push({ name: 'set-up', params: { id: store.id } })" />
      <Button outlined label="Import a program document" icon="pi pi-upload" @click="router.push('/')" />
    </div>
  </section>
</template>

<style scoped>
.empty {
  flex: 1;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 10px;
  text-align: center;
}

.empty p {
  max-width: 46ch;
  margin: 0;
}
</style>
