import './plainSchemas'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import 'vuetify/styles'
import './theme/app.css'
import App from './App.vue'
import { prefetchTune } from './api/client'
import { router } from './router'
import { warmUp } from './worker/client'
import { dark, light } from './theme/theme'

const vuetify = createVuetify({
  theme: { defaultTheme: 'light', themes: { light, dark } },
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  defaults: {
    VBtn: { variant: 'text', rounded: 'sm', ripple: false },
    VSelect: { variant: 'outlined', density: 'compact', hideDetails: true },
    VAutocomplete: { variant: 'outlined', density: 'compact', hideDetails: true },
    VTextField: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VTextarea: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VSwitch: { color: 'primary', density: 'compact', hideDetails: true, inset: true },
  },
})

// A bench is loaded in one go: its view, the engraving and the worker side by side.
const opened = /^\/tunes\/([^/]+)\//.exec(location.pathname)?.[1]
if (opened) {
  prefetchTune(decodeURIComponent(opened))
  warmUp()
  void import('./bench/BenchView.vue')
  void import('./engraving/Score.vue')
}

createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app')
