import { occasionName } from '../core/messages/occasions'
import { changeTable } from '../core/booking/change-table'
import type { Change, ChangeKind } from '../core/booking/changes'
import { effectsOf, type Situation } from '../core/booking/effects'

/** The table of changes and their consequences as Markdown, for the documentation. */

const moved = {
  by: { kind: 'client' as const, name: 'Ana' }, at: 0, move: { from: { start: 0, end: 1 }, to: { start: 2, end: 3 }, hasOtherHosts: true },
  hosts: { from: ['Bo'], to: ['Cai'] }, assigned: [{ host: 'Cai', chair: 'Host', code: 'onlyOne' as const, able: ['Cai'] }],
}

const examples: { [Kind in ChangeKind]: Extract<Change, { kind: Kind }> } = {
  booked: {
    kind: 'booked',
    by: { kind: 'client', name: 'Ana' },
    at: 0,
    told: null,
    client: 'Ana',
    eventType: 'Talk',
    start: 0,
    assigned: [{ host: 'Bo', chair: 'Host', code: 'onlyOne', able: ['Bo'] }],
  },
  requested: {
    kind: 'requested',
    by: { kind: 'client', name: 'Ana' },
    at: 0,
    client: 'Ana',
    eventType: 'Talk',
    start: 0,
    assigned: [{ host: 'Bo', chair: 'Host', code: 'onlyOne', able: ['Bo'] }],
  },
  approved: { kind: 'approved', by: { kind: 'member', name: 'Bo' }, at: 0 },
  declined: { kind: 'declined', by: { kind: 'member', name: 'Bo' }, at: 0, reason: null },
  cancelled: { kind: 'cancelled', by: { kind: 'client', name: 'Ana' }, at: 0, reason: null },
  attended: { kind: 'attended', by: { kind: 'member', name: 'Bo' }, at: 0 },
  missed: { kind: 'missed', by: { kind: 'member', name: 'Bo' }, at: 0 },
  roomReady: { kind: 'roomReady', way: 'own', by: { kind: 'system', name: 'A service' }, at: 0, service: 'A service', number: null, attempt: 1 },
  roomRenewed: { kind: 'roomRenewed', way: null, by: { kind: 'member', name: 'Bo' }, at: 0 },
  roomRemoved: { kind: 'roomRemoved', by: { kind: 'member', name: 'Bo' }, at: 0 },
  placeChanged: {
    kind: 'placeChanged', by: { kind: 'member', name: 'Bo' }, at: 0, place: { key: 'studio', kind: 'address', label: '', detail: 'The studio' }, fromVideo: true,
  },
  linkMissing: { kind: 'linkMissing', by: { kind: 'system', name: '' }, at: 0, hours: 24 },
  roomMissed: { kind: 'roomMissed', by: { kind: 'system', name: '' }, at: 0 },
  roomGiven: { kind: 'roomGiven', by: { kind: 'member', name: 'Bo' }, at: 0, link: 'https://rooms.example.org/a' },
  expired: { kind: 'expired', by: { kind: 'system', name: '' }, at: 0 },
  moved: { ...moved, kind: 'moved' },
  left: { kind: 'left', by: moved.by, at: 0, client: 'Ana', move: moved.move },
  joined: { ...moved, kind: 'joined' },
  guestsChanged: {
    kind: 'guestsChanged', by: moved.by, at: 0,
    guests: { added: [{ name: 'Dov', email: 'dov@client.example' }], removed: [{ name: 'Eda', email: 'eda@client.example' }] },
  },
  heldForPayment: {
    kind: 'heldForPayment', by: moved.by, at: 0, client: 'Ana', eventType: 'Talk', start: 0, until: 900,
    assigned: [{ host: 'Bo', chair: 'Host', code: 'onlyOne', able: ['Bo'] }],
  },
  paid: { kind: 'paid', by: moved.by, at: 0, money: { amount: 1, currency: 'EUR' }, service: 'A service' },
  paidRequest: { kind: 'paidRequest', by: moved.by, at: 0, money: { amount: 1, currency: 'EUR' }, service: 'A service' },
  holdReleased: { kind: 'holdReleased', by: moved.by, at: 0 },
  holdEnded: { kind: 'holdEnded', by: { kind: 'system', name: '' }, at: 0 },
  paidLate: { kind: 'paidLate', by: moved.by, at: 0, money: { amount: 1, currency: 'EUR' }, service: 'A service' },
  refunded: { kind: 'refunded', by: { kind: 'system', name: 'A service' }, at: 0, money: { amount: 1, currency: 'EUR' }, service: 'A service' },
  paymentMarked: { kind: 'paymentMarked', by: { kind: 'member', name: 'Bo' }, at: 0, money: { amount: 1, currency: 'EUR' }, isPaid: true },
  peopleChanged: { kind: 'peopleChanged', by: moved.by, at: 0, people: { from: 1, to: 3 } },
  handedOver: {
    kind: 'handedOver', by: { kind: 'member', name: 'Bo' }, at: 0, chair: 'Host', from: 'Bo', to: 'Cai', code: 'onlyOne', able: ['Cai'],
  },
}

/** In which everything follows that can follow. */
const everything: Situation = { byVideo: true, roomState: 'none', isLast: true, hostsHaveEntry: true, isOver: false, countsCancelled: false, countsMissed: false, othersMissed: true, roomMoves: true, isRequest: false, roomWait: 20, paymentWait: 120 }

const whenWords = {
  now: 'at once',
  withRoom: 'when the room is ready, at the latest after the wait',
  whereLinkIsMissing: 'at once, to those whose confirmation had no link',
  whereConfirmed: 'at once, to those whose confirmation has gone out', whileUnpaid: 'after two minutes, where it is not paid by then',
} as const
const roomWords = {
  make: 'made, where the place is by video',
  keepInStep: 'told of the change',
  withdrawWithLast: 'withdrawn with the last booking',
  moveWithHost: 'made anew where it was the former host’s',
  remove: 'withdrawn',
  followPlace: 'made where it moves to video, withdrawn where it leaves it',
  renew: 'made anew',
  give: 'replaced by the link that was given',
} as const

export function consequencesTable(): string {
  const rows = (Object.keys(changeTable) as ChangeKind[]).map((kind) => {
    const { subject, from, to, messages, revises, room } = changeTable[kind]
    const trail = effectsOf(examples[kind], everything).flatMap(effect => (effect.kind === 'trail' ? [`\`${effect.entry.code}\``] : []))
    return [
      `\`${kind}\``,
      subject === 'session' ? 'the session' : `${from.map(state => state ?? 'new').join(', ')} → ${to ?? 'as it was'}`,
      trail.join(', '),
      messages
        .map(({ occasion, to: people, when }) => `${occasionName(occasion)} (\`${occasion}\`) to ${people.join(', ')}, ${whenWords[when]}`)
        .join('; ') || 'none',
      revises.map(whose => (whose === 'client' ? 'clients’ (one per booking)' : 'hosts’ (one per session)')).join(', ') || 'none',
      room === null ? 'as it is' : roomWords[room],
    ]
  })
  const head = ['change', 'from → to', 'trail', 'messages', 'calendar entries revised', 'room']
  return [head, head.map(() => '---'), ...rows].map(cells => `| ${cells.join(' | ')} |`).join('\n')
}
