import { defineStore } from 'pinia'
import { ref } from 'vue'

/** Whether the journal is in view, and from which edit on. */
export const useJournal = defineStore('journal', () => {
  const visible = ref(false)
  /** The revision of the edit at its top; 0: the newest. */
  const from = ref(0)

  function show(revision = 0): void {
    from.value = revision
    visible.value = true
  }

  return { visible, from, show }
})
