import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { presets } from '../core/messages'
import type { Context } from '../server/context'
import { messageTexts } from '../server/database/schema'
import { closeContext, makeContext } from '../server/start'
import { call, inbox, mailText, post, rawMail, signIn } from './support/http'
import { bookNext, tokenOf, trailOf } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** Messages in the words of a workspace, or of one of its event types. */

const app = inject('app')
let context: Context
let workspace: TestWorkspace
let headers: { cookie: string }
let eventType = ''
const question = { key: 'material', kind: 'text' as const, label: 'Of what', help: '', required: false }
// Without a room to wait for.
const places = [{ key: 'studio', kind: 'address' as const, label: 'studio', detail: 'Pátio do Prelo 7' }]
beforeAll(async () => {
  context = await makeContext(inject('environment'))
  workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk', settings: { questions: [question], places } }, { slug: 'visit', settings: { places } }] })
  headers = await signIn(app, workspace.owner)
  const { body } = await call(`${app}/api/desk/event-types/names`, { headers })
  eventType = body.find((item: { slug?: string, name: string }) => item.slug === 'talk' || item.name === 'talk')?.id ?? body[0].id
})
afterAll(() => closeContext(context))

const soon = { timeout: 30_000, interval: 100 }
const booked = `${app}/api/desk/messages/booked/client`
const read = async (of: string | null) => (await call(`${booked}${of ? `?eventType=${of}` : ''}`, { headers })).body
const save = (of: string | null, wording: { subject: string, text: string } | null, basedOn: number, at = booked) =>
  call(at, { method: 'PUT', headers: { ...headers, 'content-type': 'application/json' }, body: JSON.stringify({ eventType: of, wording, basedOn }) })
const preview = (wording: { subject: string, text: string }, more: object = {}, at = booked) =>
  post(`${at}/preview`, { eventType, wording, booking: 0, variation: null, ...more }, headers)
/** The confirmation of a client who books. */
async function confirmation(slug: string, email: string): Promise<{ subject: string, text: string, sessionId: string }> {
  const made = await bookNext(app, context, workspace, slug, { client: { name: 'Ana Reis', email }, ...slug === 'talk' ? { answers: { material: 'vellum' } } : {} })
  await expect.poll(async () => (await inbox(email)).length, soon).toBe(1)
  const [mail] = await inbox(email)
  return { subject: mail?.subject ?? '', text: mail ? await mailText(mail.id) : '', sessionId: made.sessionId }
}

describe('words of its own', () => {
  it('are sent: the event type’s before the workspace’s, and the preset’s once neither has any', async () => {
    const before = await read(eventType)
    expect(before).toMatchObject({ source: 'preset', version: 0, wording: presets.booked.client, versions: [] })
    expect(before.fields).toContain('answers.material')
    expect(await save(null, { subject: 'Ours: {{ eventType.name }}', text: 'Dear {{ client.firstName }},\n\n{{ details }}' }, 0)).toMatchObject({ status: 200, body: { version: 1 } })
    expect(await save(eventType, { subject: 'About {{ answers.material }}', text: '{% if answers.material %}Bring the {{ answers.material }}.{% endif %}' }, 0)).toMatchObject({ status: 200 })
    // The bench knows which answers they need.
    expect((await call(`${app}/api/desk/event-types/${eventType}`, { headers })).body.messages).toEqual([
      { occasion: 'booked', own: null, answers: ['material'], address: `/desk/messages?eventType=${eventType}&message=booked.client` },
    ])
    expect(await confirmation('talk', 'own@words.example')).toMatchObject({ subject: 'About vellum', text: expect.stringContaining('Bring the vellum.') })
    expect(await confirmation('visit', 'ours@words.example')).toMatchObject({ subject: expect.stringMatching(/^Ours: /), text: expect.stringMatching(/Dear Ana,[^]*When: /) })

    expect(await save(eventType, null, 1)).toMatchObject({ status: 200, body: { version: 2 } })
    expect(await read(eventType)).toMatchObject({ source: 'workspace', inheritedFrom: 'workspace', version: 2, versions: [{ version: 2, wording: null }, { version: 1, by: expect.any(String) }] })
    expect((await confirmation('talk', 'back@words.example')).subject).toMatch(/^Ours: /)
    expect((await save(null, null, 1)).status).toBe(200)
    expect((await confirmation('talk', 'preset@words.example')).text).toContain('is booked.')
    const { body: view } = await call(`${app}/api/desk/messages?eventType=${eventType}`, { headers })
    expect(view.changed).toEqual([])
  })

  it('are refused with the line and the reason, and are nobody else’s', async () => {
    const refused = await save(eventType, { subject: 'x', text: 'Hello\n{{ answers.materal }}' }, 2)
    expect(refused).toMatchObject({
      status: 422, body: { errors: [{ path: 'text', line: 2, message: 'There is no field “answers.materal”. Did you mean {{ answers.material }}?' }] },
    })
    expect((await save(null, { subject: 'x', text: '{{ answers.material }}' }, 2)).status).toBe(422)
    expect((await save(eventType, { subject: ' ', text: ' ' }, 2)).status).toBe(400)
    for (const at of ['linkMissing/client', 'before/host', 'nothing/client', 'booked/nobody'])
      expect((await save(null, { subject: 'x', text: 'x' }, 0, `${app}/api/desk/messages/${at}`)).status).toBe(404)
    const other = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk' }] })
    const strangers = await signIn(app, other.owner)
    expect((await call(`${booked}?eventType=${eventType}`, { headers: strangers })).status).toBe(404)
    expect((await post(`${booked}/preview`, { eventType, wording: { subject: 'x', text: 'x' }, booking: 0, variation: null }, strangers)).status).toBe(404)
  })

  it('saved by two at once are those of one of them', async () => {
    const { version } = await read(null)
    const both = await Promise.all(['one', 'two'].map(text => save(null, { subject: text, text }, version)))
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409])
    expect((await save(null, { subject: 'late', text: 'late' }, version)).status).toBe(409)
    expect((await save(null, null, version + 1)).status).toBe(200)
  })

  it('that no longer work give way to the preset, and the trail says why', async () => {
    await context.db.insert(messageTexts).values({
      workspaceId: workspace.id, eventTypeId: eventType, occasion: 'booked', audience: 'client', version: 9, memberName: 'x', at: new Date(),
      wording: { subject: 'x', text: 'one\n{{ gone.field }}' },
    })
    const { text, sessionId } = await confirmation('talk', 'fails@words.example')
    expect(text).toContain('is booked.')
    expect(await trailOf(context, workspace, sessionId)).toContainEqual(expect.stringMatching(/own words of the confirmation could not be used \(text, line 2: There is no field “gone”/))
    const { body: view } = await call(`${app}/api/desk/messages?eventType=${eventType}`, { headers })
    expect(view.changed).toEqual([{ occasion: 'booked', audience: 'client', ownId: null, source: 'eventType', isFaulty: true }])
    await context.db.delete(messageTexts).where(eq(messageTexts.version, 9))
  })
})

describe('a preview', () => {
  const wording = { subject: '{{ client.name }}', text: 'Hello {{ client.firstName }}{% if room.link %} {{ room.link }}{% else %}, no link{% endif %}\n\n{{ details }}\n\n{{ manage }}' }

  it('shows a real booking, and what is hard to lay out', async () => {
    const made = await bookNext(app, context, workspace, 'talk', { client: { name: 'Ana Reis', email: 'shown@words.example' } })
    const { body } = await preview(wording)
    expect(body).toMatchObject({ client: 'Ana Reis', faults: [], subject: [{ pieces: [{ text: 'Ana Reis', isValue: true }] }], values: { 'client.firstName': 'Ana' } })
    expect(JSON.stringify(body)).not.toContain(tokenOf(made))
    expect((await preview(wording, { variation: 'longName' })).body.subject[0].pieces[0].text).toMatch(/^Wilhelmina/)
    expect((await preview(wording, { variation: 'noLink' })).body.plain).toContain('no link')
    expect((await preview(wording, { variation: 'otherZone' })).body.plain).toMatch(/When: .* (Adelaide|St Johns|Kathmandu) time/)
    for (const [occasion, sides] of Object.entries(presets)) {
      for (const [audience, preset] of Object.entries(sides)) {
        if (!preset.subject || occasion === 'bookingsList' || occasion === 'own') continue
        const { status, body: shown } = await preview(preset, {}, `${app}/api/desk/messages/${occasion}/${audience}`)
        expect([occasion, audience, status, shown.faults]).toEqual([occasion, audience, 200, []])
      }
    }
  })

  it('says by line what is wrong, and is made up where nobody has booked yet', async () => {
    expect((await preview({ subject: 'x', text: 'a\n\n{% if place %}' })).body.faults).toEqual([{ part: 'text', line: 3, message: '“if” is not closed: write {% endif %} where it ends' }])
    expect((await preview({ subject: ' ', text: 'a' })).body.faults).toEqual([{ part: 'subject', line: 1, message: 'The template produces no text' }])
    const empty = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk' }] })
    const { body } = await post(`${booked}/preview`, { eventType: null, wording, booking: 3, variation: null }, await signIn(app, empty.owner))
    expect(body).toMatchObject({ client: null, faults: [] })
    expect(body.plain).toContain('Hello Ines')
  })

  it('can be sent to oneself, once one’s address is confirmed, and only without faults', async () => {
    const { email } = workspace.owner
    const test = (words = wording) => post(`${booked}/test`, { eventType, wording: words, booking: 0, variation: 'rightToLeft' }, headers)
    expect(await test()).toMatchObject({ status: 200, body: { to: email } })
    await expect.poll(async () => (await inbox(email)).filter(({ subject }) => subject.startsWith('Test: ')).length, soon).toBe(1)
    const [mail] = (await inbox(email)).filter(({ subject }) => subject.startsWith('Test: '))
    expect(await rawMail(mail?.id ?? '')).not.toContain('text/calendar')
    expect((await test({ subject: 'x', text: '{{ nope }}' })).status).toBe(409)
  })
})
