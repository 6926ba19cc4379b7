/** Which bookings the demo has, laid around the day it is loaded. */

export interface DemoBooking {
  slug: string
  /** Days from today, negative for the past. */
  day: number
  /** Time of day in the workspace's zone, in minutes past midnight; the nearest opening is taken. */
  minutes: number
  /** How long before its start it was booked, in hours. */
  hoursBefore: number
  durationMinutes?: number
  people?: number
  notes?: { notes: string, tags: string[] }
  then?: 'approve' | 'cancel' | 'move'
  source?: string
}

const at = (hours: number, minutes = 0) => hours * 60 + minutes
const triage = (day: number, minutes: number, hoursBefore: number, more: Partial<DemoBooking> = {}): DemoBooking => ({
  slug: 'damage-triage',
  day,
  minutes,
  hoursBefore,
  ...more,
})
const studio = (day: number, minutes: number, hoursBefore: number, more: Partial<DemoBooking> = {}): DemoBooking => ({
  slug: 'studio-assessment',
  day,
  minutes,
  hoursBefore,
  then: 'approve',
  ...more,
})
const loss = (day: number, minutes: number, hoursBefore: number, more: Partial<DemoBooking> = {}): DemoBooking => ({
  slug: 'insurance-loss',
  day,
  minutes,
  hoursBefore,
  ...more,
})

const clinic = (day: number, hoursBefore: number, more: Partial<DemoBooking> = {}): DemoBooking => ({
  slug: 'flood-recovery',
  day,
  minutes: at(15),
  hoursBefore,
  ...more,
})
const interview = (day: number, minutes: number, hoursBefore: number): DemoBooking => ({
  slug: 'bench-interview',
  day,
  minutes,
  hoursBefore,
})
const review = (day: number, minutes: number, hoursBefore: number, durationMinutes: number): DemoBooking => ({
  slug: 'collection-review',
  day,
  minutes,
  hoursBefore,
  durationMinutes,
})

const past: DemoBooking[] = [
  triage(-27, at(10), 30),
  triage(-26, at(14), 52, { source: 'newsletter' }),
  studio(-25, at(10), 90),
  triage(-24, at(11), 20),
  loss(-23, at(15), 26),
  triage(-21, at(9, 40), 44),
  triage(-20, at(16), 8, { source: 'library-fair' }),
  studio(-19, at(14, 30), 120),
  triage(-19, at(11), 28),
  triage(-18, at(15), 70, { then: 'cancel' }),
  loss(-17, at(11), 30),
  triage(-16, at(10, 20), 50),
  triage(-14, at(14, 20), 24, { source: 'newsletter' }),
  studio(-13, at(9, 30), 72),
  triage(-13, at(12), 31),
  triage(-12, at(16), 12),
  loss(-12, at(16, 30), 48),
  triage(-11, at(9), 60),
  triage(-10, at(13), 22, { source: 'library-fair' }),
  triage(-9, at(15), 34),
  triage(-7, at(10), 41),
  triage(-7, at(14, 40), 29),
  studio(-6, at(11), 100),
  triage(-6, at(17), 9),
  loss(-5, at(10), 28),
  triage(-5, at(12, 20), 33, { source: 'newsletter' }),
  triage(-4, at(9, 20), 26),
  triage(-3, at(15, 20), 18),
  triage(-2, at(11, 40), 20),
  triage(-1, at(10, 40), 27),
  triage(-1, at(14), 46),
  loss(-1, at(16), 30),
  review(-8, at(11), 90, 75),
  interview(-15, at(14, 30), 60),
]

const today: DemoBooking[] = [
  triage(0, at(8, 40), 22),
  triage(0, at(9, 20), 43),
  triage(0, at(10, 20), 26),
  loss(0, at(11, 30), 29),
  triage(0, at(11, 20), 50),
  triage(0, at(13, 40), 24, { source: 'newsletter', notes: { notes: 'Called in June about the same album. Ask whether the blotters helped.', tags: ['came before', 'album'] } }),
  triage(0, at(14, 20), 31),
  loss(0, at(15), 28),
  triage(0, at(15, 20), 47),
  triage(0, at(16, 20), 20),
  triage(0, at(17, 20), 25),
  studio(0, at(14), 74),
]

const coming: DemoBooking[] = [
  triage(1, at(6, 30), 58),
  triage(1, at(10), 40),
  triage(1, at(13, 20), 84),
  studio(1, at(11), 98),
  triage(2, at(9, 40), 100),
  triage(2, at(15), 126, { then: 'cancel' }),
  loss(2, at(10, 30), 150),
  triage(3, at(11, 20), 180),
  triage(5, at(14), 230),
  triage(5, at(16), 190, { then: 'move' }),
  triage(6, at(10, 40), 210),
  clinic(8, 150),
  clinic(8, 120, { source: 'newsletter', people: 2 }),
  clinic(8, 90, { people: 3 }),
  clinic(8, 60),
  interview(4, at(14, 30), 140),
  interview(7, at(14, 30), 170),
  { ...review(5, at(12), 150, 75), notes: { notes: 'Has keys to the north store only.', tags: ['north store'] } },
  review(9, at(10), 260, 120),
]

/** Requests that still wait for a yes or no. */
const waiting: DemoBooking[] = [
  { slug: 'studio-assessment', day: 6, minutes: at(10), hoursBefore: 175 },
  { slug: 'studio-assessment', day: 8, minutes: at(15), hoursBefore: 206 },
]

export const bookings: DemoBooking[] = [...past, ...today, ...coming, ...waiting]
