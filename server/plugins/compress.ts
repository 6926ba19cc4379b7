import { gzipPage } from '../pages/compress'

/** Compresses rendered pages; static files are compressed when they are built. */
export default defineNitroPlugin((nitroApp) => {
  nitroApp.hooks.hook('render:response', async (response, { event }) => {
    // The page of an error goes through the framework's hands as text.
    if (event.node.req.headers['x-nuxt-error'] || typeof response.body !== 'string') return
    event.context.renderedPage = response.body
    const packed = await gzipPage(event, response.body)
    if (packed === null) return
    response.body = packed
    response.headers = { ...response.headers, 'content-encoding': 'gzip', 'vary': 'accept-encoding' }
  })
})
