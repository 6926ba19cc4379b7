import type { ChairPolicy, SettingsInput } from '../core/event-type/settings'
import type { EditedSet } from '../core/intake/question-sets'
import { formatDate, weekdayIndex } from '../core/time/civil'
import { planOf, studioHours } from './people'

export interface DemoEventType {
  slug: string
  listed: boolean
  settings: SettingsInput
  /** Whether it asks the shared questions too. */
  asksShared?: true
  /** Whether it takes its hours from the workspace's plan for the studio. */
  inStudio?: true
  chairs: { name: string, policy: ChairPolicy, hosts: { key: string, weight: number }[], group?: typeof group.name }[]
}

/** Hosts whom several event types may draw on. */
export const group = {
  name: 'Triage desk',
  hosts: [
    { key: 'ottoline', weight: 0.5 },
    { key: 'teodor', weight: 1 },
    { key: 'ravi', weight: 1 },
    { key: 'bryn', weight: 1 },
  ],
} as const

/** What several event types ask. */
export const sharedQuestions: EditedSet = {
  name: 'Before we meet',
  questions: [
    { key: 'insured', kind: 'yesNo', label: 'Is it insured?', required: false },
    {
      key: 'prepare', kind: 'paragraph', label: 'Is there anything we should prepare?', required: false,
      help: 'Access, lifting, light, or anything that must not be moved',
    },
  ],
}

const calendarTitle = '{{ client.name }}: {{ eventType.name }}'
const THURSDAY = 3

/** What can be booked, laid around the day (counted from 1970-01-01) on which the demo is loaded. */
export function eventTypesAround(today: number): DemoEventType[] {
  // The clinic was held last week, so that the next one is soon.
  const firstThursday = formatDate(today - 28 + ((THURSDAY - weekdayIndex(today) + 7) % 7))
  return [
    {
      slug: 'damage-triage',
      listed: true,
      settings: {
        name: 'Damage triage call',
        summary: 'Show us the damage; we tell you what cannot wait.',
        description:
          'Show us the book, letter or poster on your camera. In 20 minutes we tell you\n\n- what can wait,\n- what cannot, and\n- what to leave **alone** until we meet.',
        timeZone: 'Europe/Lisbon',
        durations: [20],
        startEveryMinutes: 20,
        bufferBeforeMinutes: 0,
        bufferAfterMinutes: 10,
        leadTimeMinutes: 120,
        horizon: { kind: 'rolling', days: 14 },
        dailyLimit: null,
        weeklyLimit: null,
        seats: 1,
        approval: false,
        hours: { mode: 'hosts' },
        places: [{ key: 'video', kind: 'video', label: '', detail: '' }],
        // Whoever has no account of their own gets no link: something for the team to mend.
        room: { ways: ['own'], link: '' },
        questions: [
          {
            key: 'material',
            kind: 'choice',
            label: 'What is it made of?',
            required: true,
            options: [
              { value: 'paper', label: 'Paper' },
              { value: 'parchment', label: 'Parchment' },
              { value: 'leather', label: 'Leather' },
              { value: 'unsure', label: 'Not sure' },
            ],
          },
          { key: 'happened', kind: 'paragraph', label: 'What happened to it?', required: true },
          { key: 'wet', kind: 'yesNo', label: 'Is the parchment wet?', required: false, showIf: { key: 'material', equals: 'parchment' } },
          {
            key: 'photographs',
            kind: 'yesNo',
            label: 'Do you have photographs?',
            help: 'If so, keep them at hand: you can hold them up to the camera.',
            required: false,
          },
        ],
        calendarTitle,
        tags: ['first contact'],
        afterwards: { text: 'Until we talk: keep it flat, keep it dry, and touch it as little as you can.', address: '' },
      },
      chairs: [
        {
          name: 'Conservator',
          policy: 'fairShare',
          hosts: [],
          group: group.name,
        },
      ],
    },
    {
      slug: 'studio-assessment',
      listed: true,
      asksShared: true,
      inStudio: true,
      settings: {
        name: 'Studio assessment',
        summary: 'Bring it to the Lisbon studio and go through it with Ottoline.',
        description:
          'Bring the object to our studio in Lisbon. We look at it together under good light, write down its condition and agree what is worth doing. Please ask for a time; Ottoline confirms it within a day.',
        timeZone: 'Europe/Lisbon',
        durations: [60],
        startEveryMinutes: 30,
        bufferBeforeMinutes: 0,
        bufferAfterMinutes: 0,
        leadTimeMinutes: 1440,
        horizon: { kind: 'rolling', days: 30 },
        dailyLimit: 3,
        weeklyLimit: null,
        seats: 1,
        approval: true,
        approvalHours: 72,
        hours: { mode: 'narrow', plan: studioHours.plan },
        places: [
          { key: 'studio', kind: 'address', label: 'our Lisbon studio', detail: 'Fernhollow Conservation, Pátio do Prelo 7, 1.º, Lisbon' },
        ],
        questions: [
          { key: 'object', kind: 'text', label: 'What will you bring?', required: true },
          {
            key: 'size',
            kind: 'choice',
            label: 'How large is it?',
            required: true,
            options: [
              { value: 'bag', label: 'Fits a bag' },
              { value: 'car', label: 'Needs a car' },
              { value: 'van', label: 'Needs a van' },
            ],
          },
        ],
        calendarTitle,
        notes: 'Two easels must be free; Ottoline looks at the calendar of the studio before she approves.',
        tags: ['Lisbon'],
      },
      chairs: [{ name: 'Conservator', policy: 'fairShare', hosts: [{ key: 'ottoline', weight: 1 }] }],
    },
    {
      slug: 'flood-recovery',
      listed: true,
      settings: {
        name: 'Flood-recovery clinic',
        summary: 'Every other Thursday: bring your questions about wet books and papers.',
        description:
          'For archives, libraries and families after a flood. We go through the **first days** together: what to dry, what to freeze, what to throw away. Up to twelve of you in one room.',
        colour: '#2F5D73',
        timeZone: 'Europe/Lisbon',
        durations: [90],
        startEveryMinutes: 90,
        bufferBeforeMinutes: 10,
        bufferAfterMinutes: 10,
        leadTimeMinutes: 60,
        horizon: { kind: 'rolling', days: 60 },
        dailyLimit: null,
        weeklyLimit: null,
        seats: 12,
        mostPeople: 4,
        approval: false,
        hours: {
          mode: 'narrow',
          plan: {
            ...planOf('', 'Europe/Lisbon'),
            recurring: [{ rrule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TH', start: firstThursday, from: '15:00', to: '16:30' }],
          },
        },
        places: [{ key: 'video', kind: 'video', label: '', detail: '' }],
        questions: [
          {
            key: 'heard',
            kind: 'choice',
            label: 'Where did you hear of the clinic?',
            required: false,
            options: [
              { value: 'library', label: 'A library' },
              { value: 'insurer', label: 'Our insurer' },
              { value: 'friend', label: 'A friend' },
              { value: 'other', label: 'Somewhere else' },
            ],
          },
          { key: 'where', kind: 'text', label: 'Where else?', required: true, showIf: { key: 'heard', equals: 'other' } },
          {
            key: 'concerned',
            kind: 'choices',
            label: 'What is wet?',
            required: true,
            options: [
              { value: 'books', label: 'Books' },
              { value: 'papers', label: 'Papers' },
              { value: 'photographs', label: 'Photographs' },
              { value: 'maps', label: 'Maps or posters' },
            ],
          },
        ],
        calendarTitle: '{{ eventType.name }}',
      },
      chairs: [{ name: 'Conservator', policy: 'fairShare', hosts: [{ key: 'ottoline', weight: 1 }] }],
    },
    {
      slug: 'bench-interview',
      listed: false,
      settings: {
        name: 'Bench placement interview',
        summary: 'For people we have invited to work at our benches.',
        description: 'We show you the benches and ask about your work; you ask us anything.',
        colour: '#6B5B2E',
        timeZone: 'Europe/Lisbon',
        durations: [45],
        startEveryMinutes: 15,
        bufferBeforeMinutes: 0,
        bufferAfterMinutes: 10,
        leadTimeMinutes: 1440,
        horizon: { kind: 'rolling', days: 30 },
        dailyLimit: null,
        weeklyLimit: 4,
        seats: 1,
        approval: false,
        guests: false,
        hours: { mode: 'hosts' },
        places: [{ key: 'video', kind: 'video', label: '', detail: '' }],
        questions: [
          { key: 'years', kind: 'number', label: 'How many years have you worked at a bench?', required: true },
          { key: 'from', kind: 'date', label: 'From when could you start?', required: false },
        ],
        holds: ['hold'],
        calendarTitle,
        tags: ['hiring'],
      },
      chairs: [
        { name: 'Lead', policy: 'fairShare', hosts: [{ key: 'ottoline', weight: 1 }] },
        {
          name: 'Second',
          policy: 'fairShare',
          hosts: [
            { key: 'teodor', weight: 1 },
            { key: 'imani', weight: 1 },
          ],
        },
      ],
    },
    {
      slug: 'collection-review',
      listed: true,
      asksShared: true,
      settings: {
        name: 'Collection care review',
        summary: 'We go through your shelves with you, room by room.',
        description:
          'Carry us through your store on a tablet or a telephone. We look at light, damp, shelves and boxes, and you get a written list of **what to do first**.',
        colour: '#3D6B4F',
        timeZone: 'Europe/Lisbon',
        durations: [75, 120],
        startEveryMinutes: 15,
        bufferBeforeMinutes: 0,
        bufferAfterMinutes: 15,
        leadTimeMinutes: 2880,
        horizon: { kind: 'rollingWorkingDays', days: 15, holidays: [] },
        dailyLimit: null,
        weeklyLimit: null,
        seats: 1,
        price: { amount: 18_000, currency: 'EUR', per: 'booking', when: 'booking', refund: { allUntilMinutes: 4 * 1440, afterPercent: 50 } },
        approval: false,
        hours: { mode: 'hosts' },
        places: [
          { key: 'video', kind: 'video', label: '', detail: '' },
          { key: 'yours', kind: 'clientSuggests', label: 'at your place, if you are in Lisbon or Kolkata', detail: '' },
        ],
        questions: [
          { key: 'metres', kind: 'number', label: 'How many metres of shelves, roughly?', required: true },
          { key: 'contact', kind: 'phone', label: 'A number for the day itself', required: false },
        ],
        calendarTitle,
      },
      chairs: [
        {
          name: 'Reviewer',
          policy: 'client',
          hosts: [
            { key: 'imani', weight: 1 },
            { key: 'ravi', weight: 1 },
          ],
        },
      ],
    },
    {
      slug: 'insurance-loss',
      listed: true,
      settings: {
        name: 'Insurance loss statement',
        summary: 'We call you and write down what your insurer needs.',
        description: 'We call you and take down what was lost or damaged, so that you have a statement for your insurer the same day.',
        timeZone: 'Europe/Lisbon',
        durations: [30],
        startEveryMinutes: 30,
        bufferBeforeMinutes: 5,
        bufferAfterMinutes: 10,
        leadTimeMinutes: 60,
        horizon: { kind: 'rollingWorkingDays', days: 10, holidays: [] },
        dailyLimit: null,
        weeklyLimit: null,
        seats: 1,
        approval: false,
        hours: { mode: 'hosts' },
        places: [{ key: 'call', kind: 'phoneWeCall', label: '', detail: '' }],
        questions: [
          { key: 'insurer', kind: 'text', label: 'Who insures it?', required: true },
          { key: 'claim', kind: 'text', label: 'Claim number', required: false },
        ],
        calendarTitle,
      },
      chairs: [
        {
          name: 'Writer',
          policy: 'order',
          hosts: [
            { key: 'imani', weight: 1 },
            { key: 'ottoline', weight: 1 },
          ],
        },
      ],
    },
  ]
}
