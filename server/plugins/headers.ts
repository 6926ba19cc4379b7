import { setResponseHeader } from 'h3'

const YEAR = 365 * 24 * 3600

/** Headers that depend on how people reach the application, which is known when it starts and not when it is built. */
export default defineNitroPlugin((nitroApp) => {
  nitroApp.hooks.hook('request', (event) => {
    if (event.context.app?.settings.baseUrl.startsWith('https:'))
      setResponseHeader(event, 'strict-transport-security', `max-age=${YEAR}; includeSubDomains`)
  })
})
