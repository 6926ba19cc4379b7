import { tellable, type Tellable } from '~~/core/booking/told'
import type { PlaceKind } from '~~/core/event-type/place-kinds'
import { presetAnswers } from '~~/core/intake'
import { formatInstant } from '~~/core/time/civil'
import type { BookableView, KnownClient } from '~~/core/views/book-for-client'
import type { SessionView } from '~~/core/views/desk'

/** What a member has entered who books a client in, and what is sent of it. */

/** In place of an event type: a session of its own. */
export const ONE_OFF = 'oneOff'

export type DeskBookingForm = ReturnType<typeof useDeskBooking>

export function useDeskBooking(bookable: BookableView, zone: string) {
  const { ownHostId } = bookable
  const form = reactive({
    eventType: null as string | null,
    duration: 0,
    people: 1,
    place: '',
    suggestion: '',
    /** Null for whoever is next in turn. */
    host: bookable.onlyOwn ? ownHostId : null,
    title: '',
    kind: 'video' as PlaceKind,
    detail: '',
    note: '',
    hosts: ownHostId === null ? [] : [ownHostId],
    name: '',
    email: '',
    phone: '',
    zone,
    guests: [] as string[],
    answers: {} as Record<string, unknown>,
    told: [...tellable] as Tellable[],
  })
  const eventType = computed(() => bookable.eventTypes.find(({ id }) => id === form.eventType) ?? null)
  const isOneOff = computed(() => form.eventType === ONE_OFF)
  const placeKind = computed(() => (isOneOff.value ? form.kind : eventType.value?.places.find(({ key }) => key === form.place)?.kind))
  const hosts = computed(() => (isOneOff.value ? bookable.hosts : eventType.value?.hosts ?? []))

  function chooseEventType(id: string): void {
    form.eventType = id
    form.duration = eventType.value?.durations[0] ?? 30
    form.people = 1
    form.place = eventType.value?.places[0]?.key ?? ''
    form.answers = presetAnswers(eventType.value?.questions ?? [])
    if (!bookable.onlyOwn && !hosts.value.some(({ id }) => id === form.host)) form.host = null
  }

  function chooseClient({ name, email, phone, timeZone }: KnownClient): void {
    Object.assign(form, { name, email, phone: phone ?? '', zone: timeZone })
  }

  /** The same client once more, and the same event type where it can be booked. */
  function bookAgain(session: SessionView, bookingId: string): void {
    const booking = session.bookings.find(({ id }) => id === bookingId)
    if (booking) chooseClient(booking.client)
    if (bookable.eventTypes.some(({ id }) => id === session.eventType.id)) chooseEventType(session.eventType.id)
  }

  /** What openings are asked for; null as long as nothing can be. */
  const asked = computed<Record<string, string | number> | null>(() => {
    const duration = { duration: form.duration }
    if (isOneOff.value) return form.hosts.length > 0 && form.duration > 0 ? { hosts: form.hosts.join(','), ...duration } : null
    if (!eventType.value) return null
    const { people, host } = form
    return { eventType: eventType.value.id, ...duration, ...people > 1 ? { people } : {}, ...host ? { host } : {} }
  })

  /** Answers to questions that stand empty are left out. */
  const given = computed(() => Object.fromEntries(Object.entries(form.answers)
    .filter(([, value]) => value !== undefined && value !== '' && !(Array.isArray(value) && value.length === 0))))

  function body(start: number) {
    const { title, duration, people, kind, detail, note, hosts: seated, host, name, email, phone, guests, told } = form
    const needsDetail = kind === 'address' || kind === 'phoneYouCall'
    const where = { key: 'place', kind, label: '', detail: needsDetail ? detail : '', ...note ? { note } : {} }
    const what = isOneOff.value
      ? { oneOff: { title, durationMinutes: duration, place: where, hosts: seated } }
      : {
          eventType: form.eventType, duration, place: form.place, ...people > 1 ? { people } : {}, ...host ? { host } : {},
          ...placeKind.value === 'clientSuggests' && form.suggestion.trim() ? { suggestion: form.suggestion } : {},
        }
    return {
      ...what, start: formatInstant(start), timeZone: form.zone, told,
      client: { name, email: email.trim(), ...phone.trim() ? { phone } : {} },
      guests: guests.map(guest => guest.trim()).filter(Boolean).map(guest => ({ email: guest })),
      answers: isOneOff.value ? {} : given.value,
    }
  }

  return { form, bookable, eventType, isOneOff, placeKind, hosts, asked, chooseEventType, chooseClient, bookAgain, body }
}
