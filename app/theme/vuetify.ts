import type { VuetifyOptions } from 'vuetify'

/** Our look in Vuetify's terms: the same names and colours as tokens.css, and components without their own manners. */

const flat = { elevation: 0, rounded: 'md', ripple: false } as const

export const brand: VuetifyOptions = {
  theme: {
    defaultTheme: 'system',
    themes: {
      light: {
        dark: false,
        colors: {
          'background': '#FBF8F3',
          'surface': '#FFFFFF',
          'primary': '#54305C',
          'on-primary': '#FFFFFF',
          'secondary': '#665B69',
          'error': '#A93B2C',
          'on-background': '#241C27',
          'on-surface': '#241C27',
          'warning': '#E0A526',
        },
        variables: { 'border-color': '#8A7F8C', 'border-opacity': 0.6, 'medium-emphasis-opacity': 0.8 },
      },
      dark: {
        dark: true,
        colors: {
          'background': '#19141B',
          'surface': '#221B25',
          'primary': '#D3B0DA',
          'on-primary': '#241C27',
          'secondary': '#B3A7B5',
          'error': '#F09A89',
          'on-background': '#F3ECF2',
          'on-surface': '#F3ECF2',
          'warning': '#E9B443',
        },
        variables: { 'border-color': '#8A7F8C', 'border-opacity': 0.8, 'medium-emphasis-opacity': 0.8 },
      },
    },
  },
  defaults: {
    global: { ripple: false },
    VBtn: { ...flat, variant: 'flat', color: 'primary', class: 'plain-button' },
    LinkButton: { ...flat, variant: 'text', color: 'primary', size: 'small', density: 'compact', class: 'plain-button link-button' },
    VTextField: { variant: 'outlined', density: 'compact', color: 'primary', rounded: 'md' },
    VTextarea: { variant: 'outlined', density: 'compact', color: 'primary', rounded: 'md' },
    VSelect: { variant: 'outlined', density: 'compact', color: 'primary', rounded: 'md' },
    VCombobox: { variant: 'outlined', density: 'compact', color: 'primary', rounded: 'md' },
    VFileInput: { variant: 'outlined', density: 'compact', color: 'primary', rounded: 'md' },
    VAutocomplete: { variant: 'outlined', density: 'compact', color: 'primary', rounded: 'md' },
    VRadioGroup: { density: 'compact', color: 'primary' },
    VRadio: { density: 'compact', color: 'primary' },
    VCheckbox: { density: 'compact', color: 'primary' },
    VSwitch: { density: 'compact', color: 'primary', inset: true },
    VNumberInput: { variant: 'outlined', density: 'compact', color: 'primary', rounded: 'md' },
    VBtnToggle: { color: 'primary', density: 'compact', rounded: 'md', border: true },
    VTabs: { color: 'primary', density: 'compact' },
    VTable: { density: 'compact' },
    VSnackbar: { location: 'bottom start', timeout: 8000, rounded: 'md' },
    VChip: { rounded: 'sm', density: 'compact' },
    VMenu: { offset: 6 },
    VList: { density: 'compact', elevation: 2, rounded: 'md' },
  },
}
