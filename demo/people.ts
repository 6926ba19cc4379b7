import { type HolidayCalendar, type StoredPlan, plainPlan } from '../core/hours/plan'
import { parseHours } from '../core/time/hours-text'

/** Fernhollow Conservation: a made-up practice of paper and book conservators. */

export const workspace = {
  slug: 'fernhollow',
  name: 'Fernhollow Conservation',
  about:
    'Paper and book conservators in Lisbon, Halifax, Kolkata and Adelaide. Show us what is damaged; we tell you what can wait and what cannot.',
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
  holidays?: HolidayCalendar[]
  /** What clients read about them, and where their own page stands; none without one. */
  about?: string
  slug?: string
  phone?: string
  /** The colours of their made-up portrait: background, clothes, skin, hair. */
  portrait?: [string, string, string, string]
  /** Days away, counted from today. */
  away?: { from: number, to: number, note: string }
  /** Whether their account of the video service is connected. */
  video: boolean
}

export const people: DemoPerson[] = [
  {
    key: 'ottoline',
    name: 'Ottoline Marsh',
    email: 'ottoline.marsh@fernhollow.example',
    role: 'owner',
    timeZone: 'Europe/Lisbon',
    hours: 'Mo-Fr 09:00-12:40,13:40-17:40',
    about: 'Leather bindings, parchment and everything that was sewn. Thirty years at the bench.',
    slug: 'ottoline',
    phone: '+351213456789',
    portrait: ['#d9c7b8', '#54305C', '#e3b594', '#8d8a86'],
    holidays: [{ country: 'PT', region: null }],
    video: true,
  },
  {
    key: 'imani',
    name: 'Imani Okonjo-Reyes',
    email: 'imani.okonjo-reyes@fernhollow.example',
    role: 'host',
    timeZone: 'Europe/Lisbon',
    hours: 'Mo-We,Fr 10:00-18:00; Sa,Su 09:00-13:00',
    about: 'Photographs, albums and whole collections: what to keep where, and what to treat first.',
    slug: 'imani',
    portrait: ['#cfd8c6', '#b5562f', '#7a4a30', '#1f1715'],
    holidays: [{ country: 'PT', region: null }],
    video: true,
  },
  {
    key: 'teodor',
    name: 'Teodor Vass',
    email: 'teodor.vass@fernhollow.example',
    role: 'host',
    timeZone: 'America/Halifax',
    hours: 'Mo-Th 08:20-16:20',
    portrait: ['#c9d3dc', '#2f5d62', '#efc7a6', '#b98a4e'],
    holidays: [{ country: 'CA', region: 'NS' }],
    video: true,
  },
  {
    key: 'ravi',
    name: 'Ravi Sundaresan',
    email: 'ravi.sundaresan@fernhollow.example',
    role: 'host',
    timeZone: 'Asia/Kolkata',
    hours: 'Mo-Sa 12:30-20:30',
    about: 'Palm leaf, maps and large formats. Surveys by video or on site around Kolkata.',
    slug: 'ravi',
    portrait: ['#ead9b5', '#3b4a6b', '#a86b45', '#221a17'],
    holidays: [{ country: 'IN', region: null }],
    video: true,
  },
  {
    key: 'bryn',
    name: 'Bryn Calloway',
    email: 'bryn.calloway@fernhollow.example',
    role: 'host',
    timeZone: 'Australia/Adelaide',
    hours: 'Mo-Sa 14:00-18:00',
    away: { from: 33, to: 39, note: 'Paper fair in Hobart' },
    video: false,
  },
  {
    key: 'sunniva',
    name: 'Sunniva Dahl',
    email: 'sunniva.dahl@fernhollow.example',
    role: 'coordinator',
    timeZone: 'Europe/Oslo',
    hours: null,
    video: false,
  },
]

/** Who is invited and has not answered yet. */
export const invitee = { name: 'Wren Halloran', email: 'wren.halloran@fernhollow.example', role: 'host', hosts: true } as const

export function planOf(hours: string, timeZone: string, holidays: HolidayCalendar[] = []): StoredPlan {
  return { ...plainPlan(timeZone, parseHours(hours)), holidays }
}

/** A plan of the workspace. */
export const studioHours = { name: 'Studio hours', plan: planOf('Tu-Th 09:30-12:30,14:00-17:00', 'Europe/Lisbon') }
