import { randomUUID } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { bookingToken, makeSeed, seal, unseal, idOfToken } from './secrets'
import { readSettings } from './settings'

const secret = 's'.repeat(40)

describe('tokens', () => {
  it('name their workspace, come out the same again, and differ by seed and secret', () => {
    const [workspace, seed] = [randomUUID(), makeSeed()]
    const token = bookingToken(secret, workspace, seed)
    expect(idOfToken(token)).toBe(workspace)
    expect(bookingToken(secret, workspace, seed)).toBe(token)
    expect(bookingToken(secret, workspace, makeSeed())).not.toBe(token)
    expect(bookingToken('t'.repeat(40), workspace, seed)).not.toBe(token)
    expect(idOfToken('guess')).toBeNull()
  })
})

describe('sealing', () => {
  it('opens with the same secret only, and notices a change', () => {
    const sealed = seal(secret, 'a token')
    expect(unseal(secret, sealed)).toBe('a token')
    expect(() => unseal('t'.repeat(40), sealed)).toThrow()
    expect(() => unseal(secret, `${sealed.slice(0, -4)}AAAA`)).toThrow()
  })
})

describe('settings', () => {
  it('name everything that is missing or wrong, at once', () => {
    expect(() => readSettings({ TEMPORIA_SECRET: 'short', BASE_URL: 'x', SMTP_URL: 'smtp://h', MAIL_FROM: 'a@b.example' }))
      .toThrow(/DATABASE_URL is missing[\s\S]*TEMPORIA_SECRET must be at least 32[\s\S]*BASE_URL must be/)
  })
})
