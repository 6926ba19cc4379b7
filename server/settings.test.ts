import { describe, expect, it } from 'vitest'
import { readSettings } from './settings'

const whole = {
  DATABASE_URL: 'postgres://temporia@127.0.0.1/temporia',
  TEMPORIA_SECRET: 'x'.repeat(64),
  BASE_URL: 'https://book.example/',
  SMTP_URL: 'smtps://mail.example:465',
  MAIL_FROM: 'bookings@mail.example',
}

describe('settings from the environment', () => {
  it('are read with their defaults', () => {
    expect(readSettings(whole)).toMatchObject({
      baseUrl: 'https://book.example',
      roomWaitSeconds: 20,
      videoTimeoutSeconds: 10,
      bookingsPerMinute: 20,
    })
    expect(readSettings({ ...whole, LANTERN_URL: 'https://rooms.example/', LANTERN_CLIENT_SECRET: 's' }).videoEnvironment)
      .toEqual({ LANTERN_URL: 'https://rooms.example/', LANTERN_CLIENT_ID: 'temporia', LANTERN_CLIENT_SECRET: 's' })
  })

  it('name all that is missing at once', () => {
    const names = Object.keys(whole)
    expect(() => readSettings({})).toThrow(new RegExp(names.map(name => `${name} is missing`).join('[^]*')))
  })

  it.each([
    ['DATABASE_URL', 'mysql://x', 'postgres'],
    ['TEMPORIA_SECRET', 'short', '32 characters'],
    ['BASE_URL', 'book', 'address'],
    ['SMTP_URL', 'http://mail', 'smtp'],
    ['MAIL_FROM', 'nobody', 'mail address'],
    ['DKIM_KEY', 'not a key', 'private key'],
    ['DKIM_DOMAIN', 'mail.example', 'needed together'],
    ['ROOM_WAIT_SECONDS', '-1', 'ROOM_WAIT_SECONDS'],
    ['BOOKINGS_PER_MINUTE', 'many', 'BOOKINGS_PER_MINUTE'],
  ])('refuse %s=%s in words', (name, value, words) => {
    expect(() => readSettings({ ...whole, [name]: value })).toThrow(new RegExp(`${name}.*${words}|${words}`))
  })
})
