import type { AccountFaultCode } from '../../../core/views/calendar-account'
import { type Outside, type OutsideAnswer, OutsideFault, type OutsideRequest } from '../outside'
import { CalendarFault } from '.'

/** A request that answers with an answer that is worth reading. Throws CalendarFault for every other. */
export async function request(
  outside: Outside, address: string, options: OutsideRequest, accepted: (status: number) => boolean = isSuccess,
): Promise<OutsideAnswer> {
  const answer = await attempt(outside, address, options)
  if (accepted(answer.status)) return answer
  throw new CalendarFault(codeOf(answer.status, options), hostOf(address), answer.status)
}

async function attempt(outside: Outside, address: string, options: OutsideRequest): Promise<OutsideAnswer> {
  try {
    return await outside.fetch(address, options)
  } catch (error) {
    if (error instanceof OutsideFault) throw new CalendarFault(error.code, error.host)
    throw error
  }
}

export function isSuccess(status: number): boolean {
  return status >= 200 && status < 300
}

function codeOf(status: number, { credentials }: OutsideRequest): AccountFaultCode {
  if (status === 401) return credentials?.authorization.startsWith('Bearer ') ? 'consentLost' : 'wrongPassword'
  if (status === 404 || status === 410) return 'notFound'
  if (status < 300) return 'unreadableAnswer'
  return status >= 500 || status === 429 ? 'serverError' : 'refused'
}

export function hostOf(address: string): string {
  return URL.canParse(address) ? new URL(address).host : address.slice(0, 100)
}
