/** The HTML of a message: all that people wrote is text in it. */

export interface Message {
  subject: string
  text: string
  html: string
}

/** Facts are pairs of a name and a value; the closing is our own text, so an address at the end of its paragraphs becomes a link. */
export function htmlMessage(title: string, opening: string, facts: readonly [string, string][], closing: string): string {
  return htmlPage(title, paragraphs(opening, false), facts.length > 0 ? factTable(facts) : '', paragraphs(closing, true))
}

const style = {
  body: 'margin:0;padding:24px;background:#FBF8F3;color:#241C27;font-family:Arial,Helvetica,sans-serif;font-size:16px;line-height:1.5',
  card: 'max-width:560px;margin:0 auto;background:#FFFFFF;border:1px solid #E5DDD0;border-left:3px solid #E0A526;border-radius:6px;padding:24px',
  name: 'padding:6px 16px 6px 0;color:#6B5F6E;vertical-align:top;white-space:nowrap',
  value: 'padding:6px 0;vertical-align:top;white-space:pre-line;word-break:break-word',
}

function htmlPage(title: string, ...parts: string[]): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${escape(title)}</title></head>`
    + `<body style="${style.body}"><div style="${style.card}">${parts.join('')}</div></body></html>`
}

function factTable(facts: readonly [string, string][]): string {
  const rows = facts.map(
    ([name, value]) =>
      `<tr><td style="${style.name}" dir="auto">${escape(name)}</td><td style="${style.value}" dir="auto">${name === 'Link' ? anchor(value) : escape(value)}</td></tr>`,
  )
  return `<table role="presentation" style="border-collapse:collapse;margin:0 0 16px">${rows.join('')}</table>`
}

function paragraphs(text: string, withLinks: boolean): string {
  return text.split(/\n{2,}/).map((paragraph) => {
    const match = withLinks && /^(.*: )(https?:\/\/[^\s<>"']+)$/s.exec(paragraph)
    const inner = match && match[1] && match[2] ? `${escape(match[1])}<br>${anchor(match[2])}` : escape(paragraph)
    return `<p dir="auto" style="margin:0 0 16px">${inner.replaceAll('\n', '<br>')}</p>`
  }).join('')
}

function anchor(url: string): string {
  return `<a href="${escape(url)}" style="color:#54305C">${escape(url)}</a>`
}

const entities: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', '\'': '&#39;' }

function escape(text: string): string {
  return text.replace(/[&<>"']/g, character => entities[character] ?? character)
}
