import type { Explanation } from '../../core/openings'
import { formatReasons } from '../../core/catalogue/reasons'
import type { Context } from '../context'
import { type EventType, explainStart } from '../event-types'

/** Who reads why a time is not open. */
export interface Reader {
  zone: string
  locale: string
}

/** Why a start is no opening of an event type, in sentences for who would book it or move there all the same. */
export async function reasonsAgainst(
  context: Context, eventType: EventType, start: number, span: Parameters<typeof explainStart>[3], { zone, locale }: Reader,
): Promise<{ reasons: Explanation['reasons'], sentences: string[] }> {
  const { explanation, query, time } = await explainStart(context, eventType, start, span)
  const names = new Map(eventType.chairs.flatMap(({ hosts }) => hosts.map(({ id, name }) => [id, name])))
  const texts = formatReasons(explanation, { query, names, time, zone, locale, now: context.now() })
  return { reasons: explanation.reasons, sentences: texts.map(({ text }) => text) }
}
