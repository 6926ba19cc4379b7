import { useDesk } from '~/stores/desk'

const openPaths = ['sign-in', 'sign-up', 'confirm', 'forgotten-password', 'new-password', 'invitation', 'change-address'].map(name => `/desk/${name}`)

/** The desk is for signed-in members; anybody else signs in first and then goes on to where they were going. */
export default defineNuxtRouteMiddleware(async (to) => {
  if (import.meta.server || !/^\/desk(\/|$)/.test(to.path) || openPaths.includes(to.path)) return
  const desk = useDesk()
  if (!desk.member) {
    // Whatever the screen is made of comes while it is asked who is signed in, and not only then.
    void import('~/ui/vuetify').catch(() => undefined)
    void preloadRouteComponents(to.fullPath).catch(() => undefined)
  }
  if (desk.member || await desk.load()) return
  return navigateTo({ path: '/desk/sign-in', query: { to: to.fullPath } })
})
