import { z } from 'zod/mini'
import { texts } from '~/locales/common'

/** A problem document as the interface answers it (RFC 9457). */

const problemSchema = z.object({
  title: z.string(),
  status: z.number(),
  detail: z.string(),
  errors: z.optional(z.array(z.object({ path: z.string(), message: z.string() }))),
  created: z.optional(z.object({ id: z.string(), page: z.string() })),
  nearest: z.optional(z.array(z.object({ start: z.string(), end: z.string(), seatsLeft: z.number() }))),
})
export type ProblemDocument = z.infer<typeof problemSchema>

/** What went wrong, as a sentence for the person; null `document` where no answer came at all. */
export function problemOf(error: unknown): { message: string, document: ProblemDocument | null } {
  const data = typeof error === 'object' && error !== null && 'data' in error ? error.data : undefined
  const read = problemSchema.safeParse(data)
  if (read.success) return { message: read.data.detail, document: read.data }
  return { message: texts.noAnswer, document: null }
}

export function fieldErrors(document: ProblemDocument | null): Record<string, string> {
  return Object.fromEntries((document?.errors ?? []).map(error => [error.path, error.message]))
}
