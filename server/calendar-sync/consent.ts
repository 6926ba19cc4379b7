import { z } from 'zod'
import type { Context } from '../context'
import type { CalendarServer } from '../ports/calendar/servers'
import { seal, unseal } from '../secrets'

/** What a member takes along to a calendar server and back, sealed so that nobody can make one up. */

export function calendarReturnPath(server: string): string {
  return `/api/desk/calendar-servers/${server}/return`
}

const consentSchema = z.object({
  workspaceId: z.string(), memberId: z.string(), hostId: z.string(), server: z.string(), verifier: z.string(), until: z.number(),
})
export type CalendarConsent = z.infer<typeof consentSchema>

const CONSENT_SECONDS = 900

/** Where a member gives consent, with a state that nobody can make up. */
export async function calendarConsentUrl(
  { settings, calendars, now }: Context, server: CalendarServer, about: Omit<CalendarConsent, 'server' | 'verifier' | 'until'>,
): Promise<string> {
  const verifier = calendars.makeVerifier()
  const state = seal(settings.secret, JSON.stringify({ ...about, server: server.key, verifier, until: now() + CONSENT_SECONDS }))
  return calendars.consentUrl(server, settings.baseUrl + calendarReturnPath(server.key), state, verifier)
}

/** Null for what was not asked for here, or too long ago. */
export function openCalendarConsent({ settings, now }: Context, state: string): CalendarConsent | null {
  try {
    const consent = consentSchema.parse(JSON.parse(unseal(settings.secret, state)))
    return consent.until < now() ? null : consent
  } catch {
    return null
  }
}
