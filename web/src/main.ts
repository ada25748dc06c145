import './worker/plainSchemas'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import 'vuetify/styles/core'
import './theme/app.css'
import App from './App.vue'
import { router } from './router'
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

createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app')
