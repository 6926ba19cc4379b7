import { isReadableOnWhite } from './contrast'
import { segmentsOf } from './marked-text'

/** The HTML of a message: all that people wrote is text in it. */

export interface Message {
  subject: string
  text: string
  html: string
}

/** What stands in a message where its text names a block: facts are pairs of a name and a value, and one link has its words. */
export interface Blocks {
  facts: [string, string][]
  manage: { words: string, link: string } | null
}

/** A stretch of a paragraph: an address that it leads to, if any, and whether a field has given it. */
export interface Piece {
  text: string
  link: string | null
  isValue: boolean
}

export type Part = { kind: 'paragraph', pieces: Piece[] } | { kind: 'facts', facts: [string, string][] }

/**
 * The paragraphs and blocks of a marked text. Addresses in the words of the template become links; of what fields have given,
 * only `links` do.
 */
export function partsOf(marked: string, { facts, manage }: Blocks, links: readonly string[]): Part[] {
  const parts: Part[] = []
  let pieces: Piece[] = []
  const endParagraph = () => {
    const trimmed = trimPieces(pieces)
    if (trimmed.length > 0) parts.push({ kind: 'paragraph', pieces: trimmed })
    pieces = []
  }
  const add = (found: Piece[]) => {
    for (const piece of found) {
      piece.text.split(/\n{2,}/).forEach((text, index) => {
        if (index > 0) endParagraph()
        if (text) pieces.push({ ...piece, text })
      })
    }
  }
  segmentsOf(marked).forEach((segment, index, segments) => {
    if (segment.kind === 'words') return add(linked(segment.text, segments[index + 1]?.kind === 'value'))
    if (segment.kind === 'value') return add([{ text: segment.text, link: links.includes(segment.text) ? segment.text : null, isValue: true }])
    endParagraph()
    if (segment.name === 'details' && facts.length > 0) parts.push({ kind: 'facts', facts })
    if (segment.name === 'manage' && manage) add([{ text: `${manage.words}: `, link: null, isValue: false }, { text: manage.link, link: manage.link, isValue: false }])
    endParagraph()
  })
  endParagraph()
  return parts
}

/** Without space at its ends; a link at its end has a line of its own. */
function trimPieces(pieces: readonly Piece[]): Piece[] {
  const kept = pieces.map((piece, index) => ({
    ...piece, text: index === 0 ? piece.text.trimStart() : index === pieces.length - 1 && !piece.link ? piece.text.trimEnd() : piece.text,
  })).filter(piece => piece.text !== '')
  const [before, last] = kept.slice(-2)
  if (before && last?.link) before.text = before.text.replace(/: $/, ':\n')
  return kept
}

const COLOUR = '#54305C'

/** In the workspace's colour (`#RRGGBB`), as far as it can be read. */
export function htmlMessage(title: string, parts: readonly Part[], colour = COLOUR): string {
  const link = isReadableOnWhite(colour) ? colour : COLOUR
  return htmlPage(title, colour, parts.map(part => (part.kind === 'facts' ? factList(part.facts, link) : paragraph(part.pieces, link))))
}

const style = {
  body: 'margin:0;padding:16px;background:#FBF8F3;color:#241C27;font-family:Arial,Helvetica,sans-serif;font-size:16px;line-height:1.5',
  card: 'max-width:560px;margin:0 auto;background:#FFFFFF;border:1px solid #E5DDD0;border-radius:6px;padding:20px',
  fact: 'margin:0 0 12px',
  name: 'margin:0;color:#6B5F6E;font-size:14px;overflow-wrap:break-word',
  value: 'margin:0;white-space:pre-line;overflow-wrap:break-word',
}

function htmlPage(title: string, colour: string, parts: readonly string[]): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escape(title)}</title></head>`
    + `<body style="${style.body}"><div style="${style.card};border-left:3px solid ${colour}">${parts.join('')}</div></body></html>`
}

/** Each name above its value, so that both have the whole width of a narrow screen. */
function factList(facts: [string, string][], colour: string): string {
  const rows = facts.map(
    ([name, value]) =>
      `<div style="${style.fact}"><p style="${style.name}" dir="auto">${escape(name)}</p><p style="${style.value}" dir="auto">${name === 'Link' ? anchor(value, colour) : escape(value)}</p></div>`,
  )
  return `<div style="margin:0 0 16px">${rows.join('')}</div>`
}

function paragraph(pieces: readonly Piece[], colour: string): string {
  const inner = pieces.map(({ text, link }) => (link ? anchor(link, colour) : escape(text).replaceAll('\n', '<br>'))).join('')
  return `<p dir="auto" style="margin:0 0 16px">${inner}</p>`
}

/** One that goes on with a field’s value is no link. */
const ADDRESS = /(https?:\/\/[^\s<>"']*[^\s<>"'.,;:!?)])/

function linked(words: string, goesOn: boolean): Piece[] {
  const parts = words.split(ADDRESS)
  const unfinished = goesOn && parts.at(-1) === '' ? parts.length - 2 : -1
  return parts.map((text, index) => ({ text, link: index % 2 === 1 && index !== unfinished ? text : null, isValue: false }))
}

function anchor(url: string, colour: string): string {
  return `<a href="${escape(url)}" style="color:${colour};overflow-wrap:anywhere">${escape(url)}</a>`
}

const entities: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', '\'': '&#39;' }

function escape(text: string): string {
  return text.replace(/[&<>"']/g, character => entities[character] ?? character)
}
