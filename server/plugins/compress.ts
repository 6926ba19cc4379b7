import { promisify } from 'node:util'
import { gzip } from 'node:zlib'

const compress = promisify(gzip)
const LEAST_BYTES = 1024

/** Compresses rendered pages; static files are compressed when they are built. */
export default defineNitroPlugin((nitroApp) => {
  nitroApp.hooks.hook('render:response', async (response, { event }) => {
    // The page of an error goes through the framework's hands as text.
    if (event.node.req.headers['x-nuxt-error']) return
    if (typeof response.body !== 'string' || response.body.length < LEAST_BYTES) return
    if (!String(event.node.req.headers['accept-encoding'] ?? '').includes('gzip')) return
    response.body = await compress(response.body)
    response.headers = { ...response.headers, 'content-encoding': 'gzip', 'vary': 'accept-encoding' }
  })
})
