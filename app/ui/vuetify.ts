import 'vuetify/styles'
import type { App } from 'vue'
import { createVuetify } from 'vuetify'
import { VBtn } from 'vuetify/components'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import { englishLocale } from '~~/core/time/format'
import { brand } from '~/theme/vuetify'

const installed = new WeakSet<App>()

declare module 'vue' {
  interface GlobalComponents {
    /** A button that reads like a link. */
    LinkButton: typeof VBtn
  }
}

/** Gives an application Vuetify, once. Light pages do so only when a form opens. */
export function installVuetify(app: App): void {
  if (installed.has(app)) return
  installed.add(app)
  app.use(createVuetify({
    icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
    aliases: { LinkButton: VBtn },
    // Dates are written as in the reader's own kind of English.
    date: { locale: { en: englishLocale(navigator.language) } },
    ...brand,
  }))
}
