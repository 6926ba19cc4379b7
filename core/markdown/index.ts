import MarkdownIt from 'markdown-it'

/** Markdown as safe HTML: no HTML of the writer's own, no pictures, links that say where they lead. */
const renderer = new MarkdownIt({ html: false, linkify: false, typographer: false }).disable('image')

export function markdown(text: string): string {
  return renderer.render(text)
}
