const STYLESHEET = /<link rel="stylesheet" href="\/_nuxt\/([\w.-]+\.css)"([^>]*)>/g

/**
 * Clients' pages carry their few styles in the document: on a slow line a style sheet of its own costs a whole round
 * trip before anything shows. The link stays, disabled, so that a later change of page knows what is already there.
 */
export default defineNitroPlugin((nitroApp) => {
  if (import.meta.dev) return
  const known = new Map<string, string>()
  const styles = useStorage('assets:styles')

  async function styleOf(file: string): Promise<string | undefined> {
    if (!known.has(file)) {
      const text = await styles.getItemRaw<Buffer | string>(file)
      if (text) known.set(file, String(text).replaceAll('url(./', 'url(/_nuxt/'))
    }
    return known.get(file)
  }

  nitroApp.hooks.hook('render:html', async (html, { event }) => {
    if (event.path.startsWith('/desk')) return
    for (const [index, section] of html.head.entries()) {
      const files = [...section.matchAll(STYLESHEET)].flatMap(match => match[1] ?? [])
      await Promise.all(files.map(styleOf))
      html.head[index] = section.replace(STYLESHEET, (link, file: string, rest: string) => {
        const style = known.get(file)
        return style ? `<style>${style}</style><link rel="stylesheet" href="/_nuxt/${file}"${rest} disabled>` : link
      })
    }
  })
})
