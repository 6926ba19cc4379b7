import type { Fault } from '../validation'
import { TemplateError } from './template-faults'
import { createTemplateEngine } from './templates'

/** Titles of calendar entries and rooms, from Liquid with the fields `client.name` and `eventType.name`. */

export interface TitleFields {
  client: { name: string }
  eventType: { name: string }
}

export const PRESET_TITLE = '{{ client.name }}: {{ eventType.name }}'

const engine = createTemplateEngine('title')
const sample: TitleFields = { client: { name: 'x' }, eventType: { name: 'x' } }

export interface RenderedTitle {
  title: string
  /** Why the preset stands in for the template, or null where it does not. */
  fault: Fault | null
}

/** The title of one booking. Never throws: the preset stands in for a template that fails. */
export function renderTitle(template: string, { client, eventType }: TitleFields): RenderedTitle {
  const fallback = `${client.name}: ${eventType.name}`
  const refused = titleFault(template)
  if (refused) return { title: fallback, fault: refused }
  try {
    const title = engine
      .render(template, { client: { name: client.name }, eventType: { name: eventType.name } })
      .replace(/\s+/g, ' ')
      .trim()
    return title
      ? { title: title.slice(0, TITLE_CHARACTERS), fault: null }
      : { title: fallback, fault: { code: 'templateEmpty', values: {} } }
  } catch (error) {
    if (!(error instanceof TemplateError)) throw error
    return { title: fallback, fault: error.fault }
  }
}

/** Calendars and video services take no longer titles. */
const TITLE_CHARACTERS = 500

/** What is wrong with a title's template in any of its branches, or null. */
export function titleFault(template: string): Fault | null {
  const known = checked.get(template)
  if (known !== undefined) return known
  const found = engine.findFaults(template, { ...sample })[0]?.fault ?? null
  if (checked.size >= MOST_CHECKED) checked.clear()
  checked.set(template, found)
  return found
}

/** Templates that were checked before: every room and every calendar entry asks again. */
const checked = new Map<string, Fault | null>()
const MOST_CHECKED = 500
