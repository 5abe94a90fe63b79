import { defineVuetifyConfiguration } from 'vuetify-nuxt-module/custom-configuration'

/** Ridgeway's roles as theme tokens; the lane hues are the same in both themes' roles. */
const light = {
  'background': '#F5F1E8',
  'surface': '#FFFDF8',
  'on-background': '#23262C',
  'on-surface': '#23262C',
  'primary': '#5B3E8A',
  'on-primary': '#FFFDF8',
  'primary-tint': '#ECE5F4',
  'error': '#A63D1C',
  'error-tint': '#F7E3DA',
  'second-ink': '#5B5F67',
  'line': '#D8D0C0',
  'line-soft': '#E8E1D3',
  'moss': '#5F7535',
  'lake': '#27697D',
  'clay': '#96603A',
  'slate': '#53657B',
  'plum': '#834A6C',
  'fern': '#34755A',
}
const dark = {
  'background': '#1C1B19',
  'surface': '#262522',
  'on-background': '#EDE8DD',
  'on-surface': '#EDE8DD',
  'primary': '#BFA5E8',
  'on-primary': '#1C1B19',
  'primary-tint': '#3A3148',
  'error': '#EE9A78',
  'error-tint': '#4A2C20',
  'second-ink': '#B4AFA4',
  'line': '#4A463E',
  'line-soft': '#383530',
  'moss': '#9DB56E',
  'lake': '#6FB3C8',
  'clay': '#CF9A70',
  'slate': '#97ABC3',
  'plum': '#C98CB2',
  'fern': '#74BE9E',
}

export default defineVuetifyConfiguration({
  icons: { defaultSet: 'mdi-svg' },
  theme: { defaultTheme: 'light', themes: { light: { dark: false, colors: light }, dark: { dark: true, colors: dark } } },
  defaults: {
    VBtn: { variant: 'flat', rounded: 'md' },
    ...Object.fromEntries(['VTextField', 'VSelect', 'VAutocomplete', 'VTextarea', 'VFileInput'].map(name =>
      [name, { variant: 'outlined', density: 'compact', color: 'primary', hideDetails: 'auto' }])),
    VCheckbox: { density: 'compact', color: 'primary', hideDetails: true },
    VSwitch: { density: 'compact', color: 'primary', hideDetails: true },
    VList: { density: 'compact' },
    VTable: { density: 'compact' },
    VDataTable: { density: 'compact' },
    VAlert: { density: 'compact' },
    VTooltip: { openDelay: 300 },
    // Menus and dialogs are there at once: while they grow they take no press, and a quick one would go past them.
    VMenu: { transition: false },
    VDialog: { transition: false },
  },
})
