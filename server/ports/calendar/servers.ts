import { z } from 'zod'

/** Calendar servers that the operator has registered this installation with, so that people connect by consent instead of a password. */

const serverSchema = z.strictObject({
  key: z.string().regex(/^[a-z][a-z0-9-]{0,39}$/),
  name: z.string().min(1),
  /** Where CalDAV begins. */
  address: z.url(),
  authorizeUrl: z.url(),
  tokenUrl: z.url(),
  clientId: z.string().min(1),
  clientSecret: z.string().min(1),
  scope: z.string().optional(),
})
export type CalendarServer = z.infer<typeof serverSchema>

/** A setting of the environment: JSON. */
export const calendarServersSchema = z.string().default('[]').transform((text, context) => {
  const parsed = z.array(serverSchema).safeParse(parseJson(text))
  if (parsed.success) return parsed.data
  context.addIssue({ code: 'custom', message: 'must be a JSON list of { key, name, address, authorizeUrl, tokenUrl, clientId, clientSecret }' })
  return z.NEVER
})

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}
