import { z } from 'zod'
import { seal, unseal } from '../secrets'

/** What a member takes along to a video service and back, sealed so that nobody can make one up. */

/** Where a service sends a member back to. */
export function returnPath(service: string): string {
  return `/api/desk/video-services/${service}/return`
}

const consentSchema = z.object({
  workspaceId: z.string(),
  memberId: z.string(),
  hostId: z.string(),
  service: z.string(),
  until: z.number(),
})
export type Consent = z.infer<typeof consentSchema>

export function sealConsent(secret: string, consent: Consent): string {
  return seal(secret, JSON.stringify(consent))
}

export function openConsent(secret: string, state: string): Consent | null {
  try {
    return consentSchema.parse(JSON.parse(unseal(secret, state)))
  } catch {
    return null
  }
}
