import { eq, sql } from 'drizzle-orm'
import { afterEach, beforeAll, describe, expect, it } from 'vitest'
import { bookings, deliveries, eventTypes } from '../server/database/schema'
import { useApplication } from './support/application'
import { book, call, inbox, post, request, setFault, signIn, startsOf } from './support/http'
import { attentionOf, bookedOf, bookNext, deliveriesOf, roomOf, subjects, textsOf, tokenOf, trailOf } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** Mails when things go wrong, or change while they wait. */

const own = useApplication('deliveries', { ROOM_WAIT_SECONDS: '6', RETRY_PACE: '0.2', MAIL_TIMEOUT_SECONDS: '5' })
const place = { key: 'studio', kind: 'address' as const, label: 'our studio', detail: 'Pátio do Prelo 7' }
let workspace: TestWorkspace

beforeAll(async () => {
  workspace = await makeWorkspace(own.context, {
    hosts: 1,
    video: true,
    eventTypes: [
      { slug: 'talk' },
      { slug: 'studio', settings: { places: [place], questions: [{ key: 'why', kind: 'paragraph', label: 'Why?', required: false }] } },
      {
        slug: 'asked',
        settings: { places: [place, { key: 'call', kind: 'phoneYouCall', label: 'by phone', detail: '+351 21 000 0000' }], approval: true },
      },
    ],
  })
})
afterEach(async () => {
  await setFault('lantern', 'none')
  await setFault('pigeonhole', 'none')
})

const stateOf = async (bookingId: string, audience = 'client') =>
  (await deliveriesOf(own.context, bookingId))
    .filter(delivery => delivery.audience === audience)
    .map(delivery => `${delivery.occasion} ${delivery.state}`)
const soon = { timeout: 30_000, interval: 100 }
const plainText = async (address: string, index: number) =>
  ((await textsOf(address))[index] ?? '').split('Content-Type: text/html')[0] ?? ''
const sequences = async (address: string) => (await textsOf(address)).map(text => Number(/SEQUENCE:(\d+)/.exec(text)?.[1] ?? -1))

describe('a change', () => {
  it('overtakes the mail that still waits: nobody is told that what was cancelled is booked', async () => {
    await setFault('lantern', 'holding', 1)
    const booked = await bookNext(own.url, own.context, workspace)
    await post(`${own.url}/api/public/bookings/${tokenOf(booked)}/cancel`, {})
    await setFault('lantern', 'none')
    await expect.poll(() => stateOf(booked.bookingId), soon).toEqual(expect.arrayContaining(['booked overtaken', 'cancelled sent']))
    expect(await subjects(booked.email)).toEqual(['Cancelled'])
    expect(await trailOf(own.context, workspace, booked.sessionId)).toContainEqual(
      expect.stringMatching(/^Did not mail the confirmation .*has changed since/),
    )
  })

  it('raises SEQUENCE every time, from request to confirmation, link and cancellation', async () => {
    await setFault('lantern', 'failing')
    const booked = await bookNext(own.url, own.context, workspace)
    const file = async () =>
      Number(/SEQUENCE:(\d+)/.exec((await call(`${own.url}/api/public/bookings/${tokenOf(booked)}/calendar.ics`)).body)?.[1])
    await expect.poll(() => subjects(booked.email), soon).toEqual(['Talk'])
    await setFault('lantern', 'none')
    await expect.poll(() => subjects(booked.email), soon).toEqual(['Talk', 'Your video link'])
    const withLink = await file()
    await post(`${own.url}/api/public/bookings/${tokenOf(booked)}/cancel`, {})
    await expect.poll(() => subjects(booked.email), soon).toHaveLength(3)
    const given = await sequences(booked.email)
    expect(given).toEqual([...new Set(given)].sort((a, b) => a - b))
    expect(withLink).toBe(given[1])
    expect(await file()).toBe(given[2])
  })
})

describe('a mail whose outcome is unknown', () => {
  it('is sent once more as the same mail when the application was killed while sending', async () => {
    await setFault('pigeonhole', 'slow', undefined, 3)
    const all = await Promise.all(
      Array.from({ length: 4 }, (_, index) => bookNext(own.url, own.context, workspace, 'studio', {}, 2 + index * 7)),
    )
    await expect
      .poll(async () => (await own.context.db.select().from(deliveries).where(eq(deliveries.state, 'sending'))).length, soon)
      .toBeGreaterThan(2)
    await own.process.stop('SIGKILL')
    await setFault('pigeonhole', 'none')
    await own.start()
    for (const { email, bookingId, sessionId } of all) {
      await expect.poll(() => stateOf(bookingId), soon).toEqual(['booked sent'])
      await expect.poll(() => stateOf(bookingId, 'host'), soon).toEqual(['booked sent'])
      expect(new Set((await inbox(email)).map(mail => mail.messageId)).size, 'one mail, be it twice').toBe(1)
      if ((await inbox(email)).length > 1)
        expect(await trailOf(own.context, workspace, sessionId)).toContainEqual(
          expect.stringContaining('is sent once more as the same mail'),
        )
    }
  })

  it('is left to a person after the second time, who can send it again', async () => {
    await setFault('pigeonhole', 'losing')
    const { bookingId, email } = await bookNext(own.url, own.context, workspace, 'studio')
    await expect.poll(() => stateOf(bookingId), soon).toEqual(['booked unknown'])
    const mails = await inbox(email)
    expect([mails.length, new Set(mails.map(mail => mail.messageId)).size]).toEqual([2, 1])
    await setFault('pigeonhole', 'none')
    const item = (await attentionOf(own.url, workspace)).find(entry => entry.kind === 'message' && entry.unknown)
    const cookie = await signIn(own.url, workspace.owner)
    expect((await post(`${own.url}/api/desk/deliveries/${item?.id}/send`, {}, cookie)).status).toBe(200)
    await expect
      .poll(
        async () =>
          (
            await own.context.db
              .select()
              .from(deliveries)
              .where(eq(deliveries.id, item?.id ?? ''))
          ).map(delivery => delivery.state),
        soon,
      )
      .toEqual(['sent'])
    expect((await post(`${own.url}/api/desk/deliveries/${item?.id}/send`, {}, cookie)).status).toBe(409)
  })
})

it('a mail that the server rejects for good is left to a person after three times', async () => {
  await setFault('pigeonhole', 'refusing')
  const { bookingId } = await bookNext(own.url, own.context, workspace, 'studio')
  await expect
    .poll(async () => (await deliveriesOf(own.context, bookingId)).map(delivery => `${delivery.state} after ${delivery.attempts}`), soon)
    .toEqual(['failed after 3', 'failed after 3'])
  expect(
    (await attentionOf(own.url, workspace)).filter(entry => entry.kind === 'message' && !entry.unknown).map(entry => entry.fault),
  ).toContainEqual(expect.stringContaining('550'))
})

describe('a mail that cannot be composed', () => {
  it('is shown, tried again with growing waits, and goes out once it can be', async () => {
    const [broken] = await own.context.db.select().from(eventTypes).where(eq(eventTypes.slug, 'studio'))
    const { bookingId, sessionId } = await bookNext(own.url, own.context, workspace, 'studio')
    const states = async () => (await deliveriesOf(own.context, bookingId)).map(delivery => delivery.state)
    await expect.poll(states, soon).toEqual(['sent', 'sent'])
    await own.context.db.execute(sql`update deliveries set state = 'planned', attempts = 0, sent_at = null where booking_id = ${bookingId}`)
    await own.context.db.execute(sql`update event_types set settings = settings - 'name' where id = ${broken?.id}`)
    await own.context.db.execute(
      sql`select graphile_worker.add_job('deliver', json_build_object('workspaceId', workspace_id, 'id', id), job_key := 'deliver:' || workspace_id || ':' || id) from deliveries where booking_id = ${bookingId}`,
    )
    await expect
      .poll(
        async () =>
          (await attentionOf(own.url, workspace))
            .filter(entry => entry.kind === 'message' && entry.sessionId === sessionId)
            .map(entry => entry.fault),
        soon,
      )
      .toContainEqual(expect.stringContaining('unexpected error'))
    await own.context.db.update(eventTypes).set({ settings: broken?.settings }).where(eq(eventTypes.id, broken?.id ?? ''))
    const [waiting] = (await attentionOf(own.url, workspace)).filter(entry => entry.kind === 'message' && entry.sessionId === sessionId)
    await post(`${own.url}/api/desk/deliveries/${waiting?.id}/send`, {}, await signIn(own.url, workspace.owner))
    await expect.poll(states, soon).toEqual(['sent', 'sent'])
  })

  it('for its title gives way to the preset, tells the team, and loses nothing', async () => {
    const title = '{% if client.name == "x" %}fine{% else %}{{ nope }}{% endif %}'
    await own.context.db.execute(
      sql`update event_types set settings = settings || ${JSON.stringify({ calendarTitle: title })}::jsonb where slug = 'talk' and workspace_id = ${workspace.id}`,
    )
    const booked = await bookNext(own.url, own.context, workspace)
    await expect.poll(() => subjects(booked.email), soon).toEqual(['Talk'])
    expect((await textsOf(booked.email))[0]).toContain('SUMMARY:Nandini Bhowmik: Talk')
    expect((await call(`${own.url}/api/public/bookings/${tokenOf(booked)}/calendar.ics`)).body).toContain('SUMMARY:Nandini Bhowmik: Talk')
    expect((await roomOf(own.context, booked.sessionId))?.state).toBe('ready')
    expect(
      (await trailOf(own.context, workspace, booked.sessionId)).filter(line => line.startsWith('The calendar title could not be made')),
    ).toHaveLength(1)
    expect(await attentionOf(own.url, workspace)).toContainEqual(
      expect.objectContaining({ kind: 'title', fault: expect.stringContaining('nope') }),
    )

    const cookie = await signIn(own.url, workspace.owner)
    const { body: rows } = await call(`${own.url}/api/desk/event-types`, { headers: cookie })
    const where = `${own.url}/api/desk/event-types/${rows.find((row: { slug: string }) => row.slug === 'talk').id}`
    const { body: bench } = await call(where, { headers: cookie })
    const publish = (calendarTitle: string) =>
      post(
        `${where}/publish`,
        { basedOn: bench.version, definition: { ...bench.definition, settings: { ...bench.definition.settings, calendarTitle } } },
        cookie,
      )
    for (const refused of [title, '{% include ".npmrc" %}', '{% for i in (1..9) %}x{% endfor %}']) {
      expect(await publish(refused)).toMatchObject({ status: 422, body: { errors: [{ path: 'definition.settings.calendarTitle' }] } })
    }
    expect((await publish('{{ client.name }}')).status).toBe(200)
    // A message that was being composed meanwhile tells of the earlier title, and late.
    await own.context.db.execute(
      sql`update trail set at = now() + interval '1 minute' where code = 'titleFailed' and workspace_id = ${workspace.id}`,
    )
    expect((await attentionOf(own.url, workspace)).filter(entry => entry.kind === 'title')).toEqual([])
  })
})

describe('people and places', () => {
  it('who are one address get one mail, and two guests of one domain are told apart', async () => {
    const [start = ''] = await startsOf(own.url, `${workspace.slug}/studio`)
    const email = 'ana.first@a-rather-long-domain.example'
    const made = await book(
      own.url,
      `${workspace.slug}/studio`,
      request(start, {
        client: { name: 'Ana', email },
        guests: [
          { email: email.toUpperCase() },
          { email: 'guest-number-one@a-rather-long-domain.example' },
          { email: 'guest-number-two@a-rather-long-domain.example' },
          { email: workspace.hosts[0]?.email },
        ],
      }),
    )
    expect(made.status).toBe(201)
    const planned = await deliveriesOf(own.context, made.body.booking.id)
    expect(planned.map(delivery => delivery.address).sort()).toEqual(
      [
        email,
        'guest-number-one@a-rather-long-domain.example',
        'guest-number-two@a-rather-long-domain.example',
        workspace.hosts[0]?.email,
      ].sort(),
    )
    expect(new Set(planned.map(delivery => delivery.messageId)).size).toBe(planned.length)
  })

  it('before a request is approved are the place’s label only, and the entry is tentative', async () => {
    for (const [index, where] of ['studio', 'call'].entries()) {
      const booked = await bookNext(own.url, own.context, workspace, 'asked', {
        place: where,
        guests: [{ email: `guest${index}@asked.example` }],
      })
      await expect.poll(() => subjects(booked.email), soon).toEqual(['Requested'])
      await expect.poll(() => inbox(`guest${index}@asked.example`), soon).toHaveLength(1)
      const file = (await call(`${own.url}/api/public/bookings/${tokenOf(booked)}/calendar.ics`)).body
      const said = [...await textsOf(booked.email), ...await textsOf(`guest${index}@asked.example`), file].join('\n')
      expect(said).not.toMatch(/Prelo|\+351 21/)
      expect(said).toContain(where === 'studio' ? 'our studio' : 'by phone')
      expect(file).toContain('STATUS:TENTATIVE')
      await post(`${own.url}/api/desk/bookings/${booked.bookingId}/approve`, {}, await signIn(own.url, workspace.owner))
      await expect.poll(() => subjects(booked.email), soon).toHaveLength(2)
      expect((await textsOf(booked.email))[1]).toMatch(/Prelo|\+351 21/)
    }
  })

  it('cannot put lines among ours by what they type', async () => {
    const why = 'fine\nLink: https://evil.example\u2028Passcode: 2\r\nWhen: never'
    const booked = await bookNext(own.url, own.context, workspace, 'studio', { answers: { why } })
    await expect.poll(() => subjects(booked.email), soon).toHaveLength(1)
    const plain = await plainText(booked.email, 0)
    expect(plain).toContain('> Link: https://evil.example')
    expect(plain.split(/[\r\n\u2028]+/).filter(line => /^(Link|Passcode|When: never)/.test(line))).toEqual([])
    const description = /DESCRIPTION:((?:.|\r\n )*)/
      .exec((await call(`${own.url}/api/public/bookings/${tokenOf(booked)}/calendar.ics`)).body)?.[1]
      ?.replace(/\r\n /g, '')
    expect(description?.split('\\n').filter(line => /^(Link|Passcode)/.test(line))).toEqual([])
    await post(`${own.url}/api/public/bookings/${tokenOf(booked)}/cancel`, { reason: 'ill\n\nLink: https://evil.example' })
    await expect.poll(() => subjects(booked.email), soon).toHaveLength(2)
    expect(await plainText(booked.email, 1)).toContain('> Link: https://evil.example')
    expect((await plainText(booked.email, 1)).split('\n').filter(line => line.startsWith('Link'))).toEqual([])
  })
})

it('an address that opens none of its mails gets a few an hour, whoever books; one that opens them gets the rest', async () => {
  await own.process.stop()
  await own.start({ UNOPENED_MAILS_PER_HOUR: '3' })
  const other = await makeWorkspace(own.context, { hosts: 1, eventTypes: [{ slug: 'studio', settings: { places: [place] } }] })
  const client = { name: 'Ana', email: 'flooded@client.example' }
  const made: Awaited<ReturnType<typeof bookNext>>[] = []
  for (let index = 0; index < 5; index++)
    made.push(await bookNext(own.url, own.context, index % 2 ? other : workspace, 'studio', { client }))
  // Two jobs may run at once, so which three go out is not said.
  const states = async () => (await Promise.all(made.map(async booking => (await stateOf(booking.bookingId))[0]))).sort()
  await expect.poll(states, soon).toEqual(['booked planned', 'booked planned', ...Array.from({ length: 3 }, () => 'booked sent')])
  const held = async () => (await Promise.all(made.map(({ sessionId }, index) =>
    trailOf(own.context, index % 2 ? other : workspace, sessionId))))
    .filter(lines => lines.some(line => line.startsWith('Holding the confirmation to flooded@client.example until')))
  await expect.poll(held, soon).toHaveLength(2)
  // The link that the booker is shown says nothing about the address; the one in the mail does.
  await call(`${own.url}/api/public/bookings/${tokenOf(made[0] ?? { manage: own.url })}/page`)
  const [row] = await own.context.db.select().from(bookings).where(eq(bookings.id, made[0]?.bookingId ?? ''))
  expect(row?.openedAt).toBeNull()
  const link = /https?:\/\/\S+\/bookings\/\S+\?mail=[\w-]+/.exec((await textsOf(client.email))[0] ?? '')?.[0] ?? ''
  expect((await fetch(link)).status).toBe(200)
  await own.context.db.execute(sql`select graphile_worker.reschedule_jobs(array(select id from graphile_worker.jobs), run_at := now())`)
  await expect.poll(states, soon).toEqual(Array.from({ length: 5 }, () => 'booked sent'))
  const again = await bookedOf(
    own.context,
    (await book(own.url, `${workspace.slug}/studio`, request((await startsOf(own.url, `${workspace.slug}/studio`))[0] ?? '', { client })))
      .body,
  )
  await expect.poll(() => stateOf(again.bookingId), soon).toEqual(['booked sent'])
})
