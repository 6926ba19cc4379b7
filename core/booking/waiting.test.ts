import { expect, it } from 'vitest'
import type { SessionCard } from '../views/desk'
import { groupFailingRooms } from './waiting'

type Room = NonNullable<SessionCard['room']>
const silent: Room['fault'] = { by: 'Lantern Rooms', fault: { code: 'answered', status: 503, reason: '' } }

function card(id: string, room: Partial<Room> | null): SessionCard {
  return {
    id, eventType: 'Talk', start: 0, end: 60, hosts: [{ id: `host of ${id}`, name: 'Ana' }], placeKind: 'video', open: true, bookings: [],
    room: room && { state: 'failing', fault: silent, nextTryAt: null, hostUrl: null, waitsFor: null, ...room },
  }
}

it('gathers sessions by why they have no room, also while it is being tried again, and each host’s missing account apart', () => {
  const noAccount: Room['fault'] = { by: null, fault: { code: 'noVideoAccount' } }
  const groups = groupFailingRooms([
    card('failing', {}), card('tried again', { state: 'making' }), card('tried at first', { state: 'making', fault: null }),
    card('ready', { state: 'ready', fault: null }), card('dead link', { state: 'ready', fault: { by: null, fault: { code: 'deadLink' } } }),
    card('at the studio', null), card('without account', { fault: noAccount }), card('another without', { fault: noAccount }),
  ])
  expect(groups.map(({ cards, hosts }) => [cards.map(({ id }) => id), hosts.map(({ id }) => id)])).toEqual([
    [['failing', 'tried again'], []],
    [['without account'], ['host of without account']],
    [['another without'], ['host of another without']],
  ])
})
