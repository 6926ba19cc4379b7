import { execFile } from 'node:child_process'
import { createHash, createVerify, generateKeyPairSync } from 'node:crypto'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import { smtpMail } from '../server/ports/mail/smtp'
import { closeContext, makeContext } from '../server/start'
import { inbox, post, rawMail, signIn } from './support/http'
import { attentionOf, bookNext, deliveriesOf, trailOf } from './support/sessions'
import { makeWorkspace, type TestWorkspace } from './support/workspace'

/** Mails that do not reach anybody: refused while they are sent, or come back later. */

const app = inject('app')
let context: Context
let workspace: TestWorkspace
beforeAll(async () => {
  context = await makeContext(inject('environment'))
  const place = { key: 'here', kind: 'address' as const, label: 'here', detail: 'Here 1' }
  workspace = await makeWorkspace(context, { hosts: 1, eventTypes: [{ slug: 'talk', settings: { places: [place] } }] })
})
afterAll(() => closeContext(context))

const soon = { timeout: 30_000, interval: 100 }
const toClient = async (bookingId: string) => (await deliveriesOf(context, bookingId)).find(({ audience }) => audience === 'client')

it('an address that its server does not know is tried once, and shown as that', async () => {
  const booked = await bookNext(app, context, workspace, 'talk', { client: { name: 'Ana', email: `ana.${workspace.slug}@nowhere.example` } })
  await expect.poll(async () => (await toClient(booked.bookingId))?.state, soon).toBe('failed')
  expect(await toClient(booked.bookingId)).toMatchObject({ attempts: 1, fault: { code: 'addressUnknown' } })
  expect(await trailOf(context, workspace, booked.sessionId)).toContainEqual(expect.stringMatching(/^Could not mail the confirmation to .*: the address does not exist/))
  expect(JSON.stringify(await attentionOf(app, workspace))).toContain('nowhere.example')
})

describe('a report on a mail that came back', () => {
  const run = promisify(execFile)
  async function read(text: string): Promise<{ code: number, said: string }> {
    const file = join(inject('folder'), 'report.eml')
    writeFileSync(file, text)
    const options = { env: { ...process.env, ...inject('environment') } }
    return run(process.execPath, ['--import', 'tsx', 'scripts/read-report.ts', file], options).then(
      ({ stdout }) => ({ code: 0, said: stdout }), (error: { code: number, stderr: string }) => ({ code: error.code, said: error.stderr }))
  }
  const reportOn = (messageId: string, address: string, action = 'failed', status = '5.1.1') => [
    'From: MAILER-DAEMON@mx.example', 'To: bookings@temporia.example', 'Subject: Undelivered', 'MIME-Version: 1.0',
    'Content-Type: multipart/report; report-type=delivery-status; boundary="b"', '', '--b', 'Content-Type: text/plain', '', 'Sorry.', '',
    '--b', 'Content-Type: message/delivery-status', '', 'Reporting-MTA: dns; mx.example', '',
    `Final-Recipient: rfc822; ${address}`, `Action: ${action}`, `Status: ${status}`, 'Diagnostic-Code: smtp; 550 mailbox gone', '',
    '--b', 'Content-Type: text/rfc822-headers', '', `Message-ID: ${messageId}`, 'Subject: Talk', '', '--b--', '',
  ].join('\r\n')

  it('is recorded once, on the session and in Needs you, and the mail can be sent again', async () => {
    const booked = await bookNext(app, context, workspace, 'talk', { client: { name: 'Bo', email: `bo@${workspace.slug}.example` } }, 4)
    await expect.poll(async () => (await toClient(booked.bookingId))?.state, soon).toBe('sent')
    const { id = '', messageId = '' } = await toClient(booked.bookingId) ?? {}
    expect(await read(reportOn(messageId, 'other@place.example'))).toMatchObject({ code: 0, said: expect.stringContaining('left alone') })
    expect(await read(reportOn(messageId, booked.email, 'delayed', '4.4.1'))).toMatchObject({ code: 0, said: expect.stringContaining('nothing to do') })
    expect((await toClient(booked.bookingId))?.state).toBe('sent')
    expect(await read(reportOn(messageId, booked.email.toUpperCase()))).toMatchObject({ code: 0, said: expect.stringContaining('recorded') })
    expect(await toClient(booked.bookingId)).toMatchObject({ state: 'failed', fault: { code: 'addressUnknown', reply: '550 mailbox gone' } })
    expect((await read(reportOn(messageId, booked.email))).said).toContain('known already')
    expect(await trailOf(context, workspace, booked.sessionId)).toContainEqual(`The confirmation did not reach ${booked.email}: the address does not exist (550 mailbox gone).`)
    expect(JSON.stringify(await attentionOf(app, workspace))).toContain(booked.email)
    expect((await post(`${app}/api/desk/deliveries/${id}/send`, {}, await signIn(app, workspace.owner))).status).toBe(200)
    await expect.poll(async () => (await inbox(booked.email)).length, soon).toBe(2)
  })

  it('about nothing of ours, or none at all, changes nothing', async () => {
    expect(await read(reportOn('<00000000-0000-0000-0000-000000000000.00000000-0000-0000-0000-000000000000@x>', 'a@b.example'))).toMatchObject({ code: 1, said: expect.stringContaining('no mail of this installation') })
    expect(await read('Subject: Hello\r\n\r\nNo report.\r\n')).toMatchObject({ code: 1, said: expect.stringContaining('no delivery report') })
    expect(await read('\u0000\u0001')).toMatchObject({ code: 1 })
  })
})

it('mails are signed where the settings say so, and the signature holds', async () => {
  const { privateKey, publicKey } = generateKeyPairSync('rsa', { modulusLength: 2048 })
  const signing = { domain: 'temporia.example', selector: 'mail', privateKey: privateKey.export({ type: 'pkcs8', format: 'pem' }).toString() }
  const mail = smtpMail(inject('environment')['SMTP_URL'] ?? '', 10, signing)
  const address = `signed@${workspace.slug}.example`
  await mail.send({
    messageId: '<signed@temporia.example>', from: { name: 'Ours', address: 'bookings@temporia.example' }, to: { name: 'Zoë', address }, replyTo: null,
    subject: 'Olá', text: 'Text\n', html: '<p>Text</p>', calendar: null,
  })
  mail.close()
  const raw = await rawMail((await inbox(address))[0]?.id ?? '')
  const [head = '', ...rest] = raw.split('\r\n\r\n')
  const fields = head.split(/\r\n(?![ \t])/)
  const relaxed = (field: string) => field.replace(/^([^:]+):\s*/, (_, name: string) => `${name.toLowerCase()}:`).replace(/\r\n[ \t]+/g, ' ').replace(/[ \t]+/g, ' ').trimEnd()
  const signature = fields.find(field => /^dkim-signature:/i.test(field)) ?? ''
  const tags = Object.fromEntries(signature.replace(/^[^:]+:/, '').replace(/\s/g, '').split(';').filter(Boolean).map(tag => [tag.slice(0, tag.indexOf('=')), tag.slice(tag.indexOf('=') + 1)]))
  expect(tags).toMatchObject({ d: 'temporia.example', s: 'mail', c: 'relaxed/relaxed' })
  const body = rest.join('\r\n\r\n').replace(/[ \t]+\r\n/g, '\r\n').replace(/[ \t]+/g, ' ').replace(/(\r\n)+$/, '\r\n')
  expect(createHash('sha256').update(body).digest('base64')).toBe(tags['bh'])
  const signed = (tags['h'] ?? '').split(':').flatMap(name => fields.find(field => field.toLowerCase().startsWith(`${name.toLowerCase()}:`)) ?? [])
  const text = [...signed, signature.replace(/(\bb=)[^;]*$/, '$1')].map(relaxed).join('\r\n')
  expect(createVerify('RSA-SHA256').update(text).verify(publicKey, tags['b'] ?? '', 'base64')).toBe(true)
  expect(signed.map(field => field.split(':')[0]?.toLowerCase())).toEqual(expect.arrayContaining(['from', 'to', 'subject', 'message-id']))
})
