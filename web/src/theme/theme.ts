import type { ThemeDefinition } from 'vuetify'

/** Warm paper, ink, one spruce green, one rosin amber. */
export const light: ThemeDefinition = {
  dark: false,
  colors: {
    background: '#f6f1e6',
    surface: '#fdfaf3',
    'surface-variant': '#e9e1d0',
    'on-surface-variant': '#3a352c',
    primary: '#1f5c46',
    secondary: '#8a5410',
    error: '#a3271f',
    warning: '#8a5410',
    info: '#2f5d8a',
    success: '#1f5c46',
    'on-background': '#24211c',
    'on-surface': '#24211c',
  },
}

export const dark: ThemeDefinition = {
  dark: true,
  colors: {
    background: '#1d1b18',
    surface: '#262320',
    'surface-variant': '#35312b',
    'on-surface-variant': '#ddd5c6',
    primary: '#7fc6a6',
    secondary: '#e0a85a',
    error: '#f0897f',
    warning: '#e0a85a',
    info: '#8fb8e0',
    success: '#7fc6a6',
    'on-background': '#ece5d8',
    'on-surface': '#ece5d8',
  },
}
