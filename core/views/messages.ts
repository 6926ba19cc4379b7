import { z } from 'zod'
import { reminderSchema } from '../event-type/reminders'
import { audiences, channels, occasions } from '../messages/occasions'
import { ownMessageSchema, ownMomentSchema, ownReaders } from '../messages/own'
import { SUBJECT_CHARACTERS, TEXT_CHARACTERS, variations, wordingSchema } from '../messages/wording'

/** What the calls about the wording of messages take and answer. */

const text = z.string()

/** Whose words: the preset's, the workspace's or the event type's. */
export const wordingSources = ['preset', 'workspace', 'eventType'] as const
export type WordingSource = (typeof wordingSources)[number]

const named = z.strictObject({ id: text, name: text })

export const messagesViewSchema = z.strictObject({
  /** Whose messages these are; null for those of the workspace. */
  eventType: named.nullable(),
  eventTypes: z.array(named),
  /** Of the event type. */
  reminders: z.array(reminderSchema),
  approval: z.boolean(),
  guests: z.boolean(),
  people: z.boolean(),
  paid: z.boolean(),
  video: z.boolean(),
  observers: z.array(text),
  /** Whether the operator has set up a service for phone texts. */
  canText: z.boolean(),
  /** Messages that were added, for all event types or for this one. */
  own: z.array(z.strictObject({
    id: text, isOfEventType: z.boolean(), version: z.int(), name: text, moment: ownMomentSchema, by: z.enum(channels),
    to: z.array(z.enum(ownReaders)),
  })),
  /** Messages whose words are not the preset’s, and whether those no longer work. */
  changed: z.array(z.strictObject({
    occasion: z.enum(occasions), audience: z.enum(audiences), ownId: text.nullable(), source: z.enum(['workspace', 'eventType']), isFaulty: z.boolean(),
  })),
})
export type MessagesView = z.infer<typeof messagesViewSchema>

export const messageTextSchema = z.strictObject({
  wording: wordingSchema,
  source: z.enum(wordingSources),
  /** Whose words it would have without its own. */
  inheritedFrom: z.enum(['preset', 'workspace']),
  /** Of the words that stand here; 0 where there were never any. */
  version: z.int(),
  /** Names that a template can use. */
  fields: z.array(text),
  /** Newest first; `wording` is null where somebody went back to what is inherited. */
  versions: z.array(z.strictObject({ version: z.int(), at: z.int(), by: text, wording: wordingSchema.nullable() })),
})
export type MessageText = z.infer<typeof messageTextSchema>

export const savedWordingSchema = z.strictObject({
  eventType: z.uuid().nullable(),
  /** Null goes back to what is inherited. */
  wording: wordingSchema.nullable(),
  basedOn: z.int().min(0).max(2_147_483_647),
})

export const addedMessageSchema = z.strictObject({ eventType: z.uuid().nullable(), definition: ownMessageSchema })
export const changedMessageSchema = z.strictObject({ basedOn: z.int().min(1).max(2_147_483_647), definition: ownMessageSchema })

/** A wording as it is being typed. */
export const previewRequestSchema = z.strictObject({
  eventType: z.uuid().nullable(),
  wording: z.strictObject({ subject: z.string().max(SUBJECT_CHARACTERS), text: z.string().max(TEXT_CHARACTERS) }),
  /** The first booking that it is shown with, or another one. */
  booking: z.int().min(0).max(1000),
  variation: z.enum(variations).nullable(),
})
export type PreviewRequest = z.infer<typeof previewRequestSchema>

const piece = z.strictObject({ text, link: text.nullable(), isValue: z.boolean() })
const part = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('paragraph'), pieces: z.array(piece) }),
  z.strictObject({ kind: z.literal('facts'), facts: z.array(z.tuple([text, text])) }),
])

export const messagePreviewSchema = z.strictObject({
  /** Whose booking it is shown with; null for a made-up one, where there is none yet. */
  client: text.nullable(),
  /** What the names give there, as text. */
  values: z.record(text, text),
  faults: z.array(z.strictObject({ part: z.enum(['subject', 'text']), line: z.int(), message: text })),
  subject: z.array(part),
  text: z.array(part),
  plain: text,
  /** Of a phone text with links as long as they are: its characters, and in how many parts it is sent; null for a mail. */
  size: z.strictObject({ characters: z.int(), parts: z.int() }).nullable(),
})
export type MessagePreview = z.infer<typeof messagePreviewSchema>
