import type { H3Event } from 'h3'
import { hasRight } from '../../core/account/rights'
import type { SignedIn } from '../../core/views/desk'
import { reachesBooking, reachesDelivery, reachesSession } from '../booking'
import { reachesCalendar, reachesCalendarAccount } from '../calendar-sync'
import type { Database } from '../database/connection'
import { reachesHours } from '../hosts-time'
import { reachesHost } from '../people'
import { reachesAccount } from '../rooms'
import type { Subject } from './calls/call'
import { idParam, notFound, problem } from './problem'

/** Refuses a call whose subject is not the workspace's, or another host's whom the member does not reach. */
export async function requireSubject(event: H3Event, db: Database, member: SignedIn, subject: Subject): Promise<void> {
  const id = idParam(event, 'id')
  if (await isReached(db, member, subject, id)) return
  if (subject.kind === 'member') throw problem('notAllowed', 'roleNotAllowed', { role: member.role })
  // What one can read, one is told that one may not change it.
  if (subject.kind === 'hours' && subject.needs === 'change' && await reachesHours(db, member, id, 'see'))
    throw problem('notAllowed', 'ownHoursOnly', {})
  throw notFound()
}

function isReached(db: Database, member: SignedIn, subject: Subject, id: string): Promise<boolean> {
  switch (subject.kind) {
    case 'session':
      return reachesSession(db, member, id, subject.needs)
    case 'booking':
      return reachesBooking(db, member, id, subject.needs)
    case 'delivery':
      return reachesDelivery(db, member, id, subject.needs)
    case 'hours':
      return reachesHours(db, member, id, subject.needs)
    case 'hostsSessions':
      return reachesHost(db, member, id, { sessions: subject.needs })
    case 'host':
      return reachesHost(db, member, id, null)
    case 'account':
      return reachesAccount(db, member, id)
    case 'calendarAccount':
      return reachesCalendarAccount(db, member, id)
    case 'calendar':
      return reachesCalendar(db, member, id)
    case 'member':
      return Promise.resolve(id === member.memberId || hasRight(member.role, 'changePeople'))
  }
}
