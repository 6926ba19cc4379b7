import type { HoursPlan } from '../core/openings'
import type { Weekday } from '../core/time/civil'
import { parseHours } from '../core/time/hours-text'

/** Fernhollow Conservation: a made-up practice of paper and book conservators. */

export const workspace = {
  slug: 'fernhollow',
  name: 'Fernhollow Conservation',
  about: 'Paper and book conservators in Lisbon, Halifax, Kolkata and Adelaide. Show us what is damaged; we tell you what can wait and what cannot.',
  timeZone: 'Europe/Lisbon',
  looks: { colour: '#54305C' },
}

/** Everybody signs in with this. */
export const PASSWORD = 'paper-and-paste'

export interface DemoPerson {
  key: string
  name: string
  email: string
  role: 'owner' | 'coordinator' | 'host'
  timeZone: string
  /** Weekly hours in their own zone; nobody without them hosts. */
  hours: string | null
  /** Whether their account of the video service is connected. */
  video: boolean
}

export const people: DemoPerson[] = [
  { key: 'ottoline', name: 'Ottoline Marsh', email: 'ottoline.marsh@fernhollow.example', role: 'owner', timeZone: 'Europe/Lisbon', hours: 'Mo-Fr 09:00-12:40,13:40-17:40', video: true },
  { key: 'imani', name: 'Imani Okonjo-Reyes', email: 'imani.okonjo-reyes@fernhollow.example', role: 'host', timeZone: 'Europe/Lisbon', hours: 'Mo-We,Fr 10:00-18:00; Sa,Su 09:00-13:00', video: true },
  { key: 'teodor', name: 'Teodor Vass', email: 'teodor.vass@fernhollow.example', role: 'host', timeZone: 'America/Halifax', hours: 'Mo-Th 08:20-16:20', video: true },
  { key: 'ravi', name: 'Ravi Sundaresan', email: 'ravi.sundaresan@fernhollow.example', role: 'host', timeZone: 'Asia/Kolkata', hours: 'Mo-Sa 12:30-20:30', video: true },
  { key: 'bryn', name: 'Bryn Calloway', email: 'bryn.calloway@fernhollow.example', role: 'host', timeZone: 'Australia/Adelaide', hours: 'Mo-Sa 14:00-18:00', video: false },
  { key: 'sunniva', name: 'Sunniva Dahl', email: 'sunniva.dahl@fernhollow.example', role: 'coordinator', timeZone: 'Europe/Oslo', hours: null, video: false },
]

export function planOf(hours: string, timeZone: string): HoursPlan {
  return { timeZone, weekly: parseHours(hours).map(window => ({ ...window, days: [...window.days] as Weekday[] })), recurring: [], exceptions: [], valid: { from: null, to: null } }
}
