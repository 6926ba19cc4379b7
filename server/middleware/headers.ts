import { getResponseHeader, setResponseHeader } from 'h3'

const YEAR = 365 * 24 * 3600
/** For answers that are no page of ours; pages replace it with their own. */
const NOTHING = 'default-src \'none\'; base-uri \'none\'; form-action \'none\'; frame-ancestors \'none\''

/** Headers of every answer. Some depend on how people reach the application, which is known when it starts and not when it is built. */
export default defineEventHandler((event) => {
  // A worker is bound by the policy of its own script.
  if (!event.path.startsWith('/_nuxt/') && !getResponseHeader(event, 'content-security-policy'))
    setResponseHeader(event, 'content-security-policy', NOTHING)
  if (event.context.app?.settings.baseUrl.startsWith('https:'))
    setResponseHeader(event, 'strict-transport-security', `max-age=${YEAR}; includeSubDomains`)
})
