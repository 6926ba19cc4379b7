import { storePage } from '../pages/cache'

/** Headers that belong to one answer only. */
const OWN = new Set(['date', 'connection', 'keep-alive', 'transfer-encoding', 'content-length', 'content-encoding', 'vary'])

/** Remembers clients' pages as they were answered. A page that sets a cookie is somebody's own and is not remembered. */
export default defineNitroPlugin((nitroApp) => {
  nitroApp.hooks.hook('afterResponse', (event) => {
    const { pageKey, renderedPage } = event.context
    const { res } = event.node
    if (pageKey === undefined || renderedPage === undefined || res.statusCode !== 200 || res.hasHeader('set-cookie')) return
    const headers = Object.fromEntries(Object.entries(res.getHeaders())
      .flatMap(([name, value]) => (value === undefined || OWN.has(name) ? [] : [[name, String(value)]])))
    const nonce = /'nonce-([^']+)'/.exec(headers['content-security-policy'] ?? '')?.[1]
    if (nonce) storePage(pageKey, { html: renderedPage, headers, nonce })
  })
})
