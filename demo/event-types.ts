import type { ChairPolicy, Settings } from '../core/event-type/settings'
import { planOf } from './people'

export interface DemoEventType {
  slug: string
  settings: Settings
  chairs: { name: string, policy: ChairPolicy, hosts: { key: string, weight: number }[] }[]
}

const calendarTitle = '{{ client.name }}: {{ eventType.name }}'

export const eventTypes: DemoEventType[] = [
  {
    slug: 'damage-triage',
    settings: {
      name: 'Damage triage call',
      summary: 'Show us the damage; we tell you what cannot wait.',
      description: 'Show us the book, letter or poster on your camera. In 20 minutes we tell you what can wait, what cannot, and what to leave alone until we meet.',
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
      questions: [
        {
          key: 'material', kind: 'choice', label: 'What is it made of?', required: true,
          options: [
            { value: 'paper', label: 'Paper' },
            { value: 'parchment', label: 'Parchment' },
            { value: 'leather', label: 'Leather' },
            { value: 'unsure', label: 'Not sure' },
          ],
        },
        { key: 'happened', kind: 'paragraph', label: 'What happened to it?', required: true },
        { key: 'photographs', kind: 'yesNo', label: 'Do you have photographs?', help: 'If so, keep them at hand: you can hold them up to the camera.', required: false },
      ],
      calendarTitle,
    },
    chairs: [{
      name: 'Conservator', policy: 'fairShare', hosts: [
        { key: 'ottoline', weight: 0.5 }, { key: 'teodor', weight: 1 }, { key: 'ravi', weight: 1 }, { key: 'bryn', weight: 1 },
      ],
    }],
  },
  {
    slug: 'studio-assessment',
    settings: {
      name: 'Studio assessment',
      summary: 'Bring it to the Lisbon studio and go through it with Ottoline.',
      description: 'Bring the object to our studio in Lisbon. We look at it together under good light, write down its condition and agree what is worth doing. Please ask for a time; Ottoline confirms it within a day.',
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
      hours: { mode: 'narrow', plan: planOf('Tu-Th 09:30-12:30,14:00-17:00', 'Europe/Lisbon') },
      places: [{ key: 'studio', kind: 'address', label: 'our Lisbon studio', detail: 'Fernhollow Conservation, Pátio do Prelo 7, 1.º, Lisbon' }],
      questions: [
        { key: 'object', kind: 'text', label: 'What will you bring?', required: true },
        { key: 'size', kind: 'choice', label: 'How large is it?', required: true, options: [
          { value: 'bag', label: 'Fits a bag' }, { value: 'car', label: 'Needs a car' }, { value: 'van', label: 'Needs a van' },
        ] },
      ],
      calendarTitle,
    },
    chairs: [{ name: 'Conservator', policy: 'fairShare', hosts: [{ key: 'ottoline', weight: 1 }] }],
  },
  {
    slug: 'insurance-loss',
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
    chairs: [{ name: 'Writer', policy: 'order', hosts: [{ key: 'imani', weight: 1 }, { key: 'ottoline', weight: 1 }] }],
  },
]
