import { defineStore } from 'pinia'

const THEME_KEY = 'temporia theme'

export const themes = ['system', 'light', 'dark'] as const
export type ThemeChoice = (typeof themes)[number]

/** The light or dark theme that this browser shows the desk in, as it was chosen here; `system` follows the device. */
export const useThemeChoice = defineStore('theme', () => {
  const choice = ref<ThemeChoice>(themes.find(theme => theme === localStorage.getItem(THEME_KEY)) ?? 'system')

  watchEffect(() => {
    if (choice.value === 'system') document.documentElement.removeAttribute('data-theme')
    else document.documentElement.setAttribute('data-theme', choice.value)
  })

  function choose(theme: ThemeChoice): void {
    choice.value = theme
    if (theme === 'system') localStorage.removeItem(THEME_KEY)
    else localStorage.setItem(THEME_KEY, theme)
  }

  return { choice, choose }
})
