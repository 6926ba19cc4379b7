import 'vuetify/styles'
import type { App } from 'vue'
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import { brand } from '~/theme/vuetify'

const installed = new WeakSet<App>()

/** Gives an application Vuetify, once. Light pages do so only when a form opens. */
export function installVuetify(app: App): void {
  if (installed.has(app)) return
  installed.add(app)
  app.use(createVuetify({
    icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
    ...brand,
  }))
}
