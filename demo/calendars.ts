import { people } from './people'

/**
 * The hosts' calendars at Copperplate Calendar: two each, of work and of everything else, around today. Days count from the day
 * of loading; times are the host's own.
 */

export const CALENDAR_PASSWORD = 'gold-leaf'

interface DemoEntry {
  title: string
  day: number
  from?: string
  to?: string
  days?: number
  rule?: string
  status?: 'TENTATIVE' | 'CANCELLED'
  isFree?: boolean
  without?: number[]
  moved?: { week: number, day: number, from: string, to: string }[]
}

export interface DemoCalendar {
  name: string
  colour: string
  readOnly?: boolean
  entries: DemoEntry[]
}

const weekly = (title: string, day: number, from: string, to: string, more: Partial<DemoEntry> = {}): DemoEntry =>
  ({ title, day, from, to, rule: 'FREQ=WEEKLY', ...more })

const calendars: Record<string, [DemoCalendar, DemoCalendar]> = {
  ottoline: [
    {
      name: 'Studio', colour: '#54305C',
      entries: [
        weekly('Studio meeting', -14, '09:00', '09:40', { without: [3] }),
        weekly('Leather delivery', -13, '11:10', '11:50', { moved: [{ week: 2, day: 1, from: '15:00', to: '15:30' }] }),
        { title: 'Interviews (hold)', day: 5, from: '14:00', to: '17:00' },
        { title: 'Interviews (hold)', day: 12, from: '14:00', to: '17:00' },
        { title: 'Paper supplier, perhaps', day: 2, from: '16:00', to: '16:45', status: 'TENTATIVE' },
        { title: 'Insurer on site', day: 3, from: '10:00', to: '12:00' },
        { title: 'Kiln workshop', day: 16, days: 2 },
        { title: 'Bench is booked for students', day: 6, from: '09:00', to: '12:00', isFree: true },
      ],
    },
    {
      name: 'Family', colour: '#8d6a3b',
      entries: [
        { title: 'Dentist', day: 1, from: '09:00', to: '09:50' },
        weekly('Choir', -10, '16:30', '17:40'),
        { title: 'Mother’s birthday', day: 9, days: 1, rule: 'FREQ=YEARLY' },
        { title: 'Parents’ evening', day: 8, from: '15:30', to: '17:00' },
      ],
    },
  ],
  imani: [
    {
      name: 'Work', colour: '#b5562f',
      entries: [
        weekly('Album survey, city archive', -7, '10:00', '12:00', { without: [2] }),
        { title: 'Scanner calibration', day: 4, from: '13:00', to: '15:00' },
        { title: 'Hold for interviews', day: 6, from: '15:00', to: '17:00' },
      ],
    },
    { name: 'Private', colour: '#5a6e44', entries: [weekly('Swimming', -9, '17:00', '18:00'), { title: 'Move house', day: 19, days: 2 }] },
  ],
  teodor: [
    {
      name: 'Bench', colour: '#2f5d62',
      entries: [
        { title: 'Standing check of the flood store', day: -21, from: '08:30', to: '09:00', rule: 'FREQ=DAILY;BYDAY=MO,WE' },
        { title: 'Lecture at the college', day: 3, from: '13:00', to: '15:30' },
        { title: 'Hold for interviews', day: 6, from: '11:00', to: '13:00' },
      ],
    },
    { name: 'Home', colour: '#b98a4e', entries: [weekly('School run', -20, '14:40', '15:20'), { title: 'Car inspection', day: 2, from: '09:30', to: '10:30' }] },
  ],
  ravi: [
    {
      name: 'Surveys', colour: '#3b4a6b',
      entries: [
        weekly('Map room, river trust', -12, '13:00', '15:00'),
        { title: 'Site visit, perhaps', day: 5, from: '16:00', to: '19:00', status: 'TENTATIVE' },
        { title: 'Photography', day: 2, from: '18:00', to: '19:30' },
      ],
    },
    { name: 'Household', colour: '#a86b45', entries: [{ title: 'Cousin’s wedding', day: 13, days: 3 }, weekly('Violin lesson', -11, '19:30', '20:30')] },
  ],
  bryn: [
    { name: 'Rosters', colour: '#6a4c93', entries: [weekly('Gallery shift', -8, '14:00', '15:30'), { title: 'Stocktake', day: 7, from: '14:00', to: '18:00' }] },
    { name: 'Coast walks', colour: '#3f7d58', readOnly: true, entries: [{ title: 'Coast walk', day: 10, days: 1 }] },
  ],
}

/** Accounts at Copperplate Calendar as it starts with them. */
export const calendarAccounts = people.flatMap(({ key, name, email, timeZone }) =>
  (calendars[key] ? [{ user: key, password: CALENDAR_PASSWORD, name, email, timeZone, calendars: calendars[key] }] : []))
