import { z } from 'zod'
import { noRepeats } from '../validation'

/** What the team writes about a session for itself: clients see none of it. */

export const tagsSchema = z.array(z.string().trim().min(1).max(40)).max(20).superRefine(noRepeats())

export const sessionNotesSchema = z.strictObject({ notes: z.string().trim().max(5000), tags: tagsSchema })
export type SessionNotes = z.infer<typeof sessionNotesSchema>
