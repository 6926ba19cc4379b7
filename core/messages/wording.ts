import { z } from 'zod'
import { audiences, occasions, occasionTable, type Audience, type Channel, type Occasion } from './occasions'
import { phonePresets, presets, type Wording } from './presets'

/** What a workspace may word itself. */

export const SUBJECT_CHARACTERS = 500
export const TEXT_CHARACTERS = 10_000

export const wordingSchema = z.strictObject({
  /** Empty in a phone text, and nowhere else. */
  subject: z.string().trim().max(SUBJECT_CHARACTERS),
  text: z.string().max(TEXT_CHARACTERS).refine(text => text.trim() !== ''),
})

export interface WordedMessage {
  occasion: Occasion
  audience: Audience
  by: Channel
  /** Which of the workspace's own, where the occasion is that; null otherwise. */
  ownId: string | null
}

/** The preset of a message; null where nothing is sent to such readers, or where an event type cannot have words of its own. */
export function presetOf({ occasion, audience, by }: Pick<WordedMessage, 'occasion' | 'audience' | 'by'>, ofEventType: boolean): Wording | null {
  if (by === 'phone') return phonePresets[audience]
  const preset = presets[occasion][audience]
  return preset.subject === '' || (ofEventType && occasionTable[occasion].isGeneral) ? null : preset
}

export const wordedMessageSchema = z.strictObject({ occasion: z.enum(occasions).exclude(['own']), audience: z.enum(audiences) })

/** What a preview can be tried with, beside a booking as it is. */
export const variations = ['noLink', 'longName', 'otherZone', 'rightToLeft'] as const
export type Variation = (typeof variations)[number]

/** Names that are hard to lay out. */
export const LONG_NAME = 'Wilhelmina Constantina Featherstonehaugh-Villanueva de la Cruz y Santos-Albuquerque'
export const RIGHT_TO_LEFT_NAME = 'ליאת בן־ארי'
