import '@fontsource-variable/bricolage-grotesque'
import '@fontsource-variable/instrument-sans'
import 'primeicons/primeicons.css'
import './theme/tokens.css'
import './theme/forms.css'
import './theme/print.css'
import { createPinia } from 'pinia'
import PrimeVue, { defaultOptions } from 'primevue/config'
import ToastService from 'primevue/toastservice'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import { preset } from './theme/preset'
import { focus } from '@/ui/focus'
import { typing } from './ui/typing'

createApp(App)
  .use(createPinia())
  .use(router)
  .use(PrimeVue, {
    theme: { preset, options: { darkModeSelector: '[data-theme="dark"]' } },
    locale: { ...defaultOptions.locale, firstDayOfWeek: 1 },
  })
  .use(ToastService)
  // What somebody is about to type into has the focus when it appears.
  .directive('focus', focus)
  .directive('typing', typing)
  .mount('#app')
