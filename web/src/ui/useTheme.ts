import { useStorage } from '@vueuse/core'
import { ref, watchEffect } from 'vue'

/** The theme of what has one of its own, whatever was chosen: a screen on a wall. */
export const forced = ref<'light' | 'dark'>()

/** The theme, remembered by the browser; the system's own until one is chosen. */
export function useTheme() {
  const system = matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light'
  const theme = useStorage<'light' | 'dark'>('jantrel-theme', system)
  watchEffect(() => (document.documentElement.dataset.theme = forced.value ?? theme.value))
  const toggle = () => (theme.value = theme.value === 'dark' ? 'light' : 'dark')
  return { theme, toggle }
}
