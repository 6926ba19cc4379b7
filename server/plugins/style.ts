const STYLESHEET = /<link\b[^>]*\brel="stylesheet"[^>]*\bhref="(\/_nuxt\/[\w.-]+\.css)"[^>]*>/g

/**
 * Clients' pages carry their few styles in the document: on a slow line a style sheet of its own costs a whole round
 * trip before anything shows. The link stays, disabled, so that a later change of page knows what is already there.
 */
export default defineNitroPlugin((nitroApp) => {
  if (import.meta.dev) return
  const known = new Map<string, string>()

  async function learn(path: string): Promise<void> {
    if (known.has(path)) return
    const answer = await nitroApp.localFetch(path, {})
    if (answer.ok) known.set(path, (await answer.text()).replaceAll('url(./', 'url(/_nuxt/'))
  }

  nitroApp.hooks.hook('render:html', async (html, { event }) => {
    if (event.path.startsWith('/desk')) return
    for (const [index, section] of html.head.entries()) {
      await Promise.all([...section.matchAll(STYLESHEET)].map(match => learn(match[1] ?? '')))
      html.head[index] = section.replace(STYLESHEET, (link, path: string) => {
        const style = known.get(path)
        return style === undefined ? link : `<style>${style}</style>${link.slice(0, -1)} disabled>`
      })
    }
  })
})
