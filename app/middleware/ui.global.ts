/** Pages that are not light get Vuetify before they are shown. */
export default defineNuxtRouteMiddleware(async (to) => {
  if (to.meta['ui'] === 'light' || import.meta.server) return
  const nuxtApp = useNuxtApp()
  const { installVuetify } = await import('~/ui/vuetify')
  installVuetify(nuxtApp.vueApp)
})
