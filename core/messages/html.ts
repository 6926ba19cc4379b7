/** The HTML of a message: all that people wrote is text in it. */

export interface Message {
  subject: string
  text: string
  html: string
}

/** Facts are pairs of a name and a value; the closing is our own text, so an address at the end of its paragraphs becomes a link. */
export function htmlMessage(title: string, opening: string, facts: readonly [string, string][], closing: string): string {
  return htmlPage(title, paragraphs(opening, false), facts.length > 0 ? factList(facts) : '', paragraphs(closing, true))
}

const style = {
  body: 'margin:0;padding:16px;background:#FBF8F3;color:#241C27;font-family:Arial,Helvetica,sans-serif;font-size:16px;line-height:1.5',
  card: 'max-width:560px;margin:0 auto;background:#FFFFFF;border:1px solid #E5DDD0;border-left:3px solid #E0A526;border-radius:6px;padding:20px',
  fact: 'margin:0 0 12px',
  name: 'margin:0;color:#6B5F6E;font-size:14px;overflow-wrap:break-word',
  value: 'margin:0;white-space:pre-line;overflow-wrap:break-word',
}

function htmlPage(title: string, ...parts: string[]): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escape(title)}</title></head>`
    + `<body style="${style.body}"><div style="${style.card}">${parts.join('')}</div></body></html>`
}

/** Each name above its value, so that both have the whole width of a narrow screen. */
function factList(facts: readonly [string, string][]): string {
  const rows = facts.map(
    ([name, value]) =>
      `<div style="${style.fact}"><p style="${style.name}" dir="auto">${escape(name)}</p><p style="${style.value}" dir="auto">${name === 'Link' ? anchor(value) : escape(value)}</p></div>`,
  )
  return `<div style="margin:0 0 16px">${rows.join('')}</div>`
}

function paragraphs(text: string, withLinks: boolean): string {
  return text.split(/\n{2,}/).map((paragraph) => {
    const match = withLinks && /^(.*: )(https?:\/\/[^\s<>"']+)$/s.exec(paragraph)
    const inner = match && match[1] && match[2] ? `${escape(match[1])}<br>${anchor(match[2])}` : escape(paragraph)
    return `<p dir="auto" style="margin:0 0 16px">${inner.replaceAll('\n', '<br>')}</p>`
  }).join('')
}

function anchor(url: string): string {
  return `<a href="${escape(url)}" style="color:#54305C;overflow-wrap:anywhere">${escape(url)}</a>`
}

const entities: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', '\'': '&#39;' }

function escape(text: string): string {
  return text.replace(/[&<>"']/g, character => entities[character] ?? character)
}
