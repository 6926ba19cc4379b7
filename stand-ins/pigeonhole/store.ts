import { randomBytes } from 'node:crypto'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { type Fault, noFault } from '../shared/faults'
import { StoredValue } from '../shared/stored-value'

/** Mail that was caught: an index, and each raw message in a file of its own. */

export interface Caught {
  id: string
  to: string[]
  from: string
  subject: string
  messageId: string
  at: string
}

export class PigeonholeStore {
  private readonly stored: StoredValue<{ messages: Caught[] }>
  fault: Fault = noFault

  constructor(private readonly folder: string) {
    mkdirSync(`${folder}/mail`, { recursive: true })
    this.stored = new StoredValue(`${folder}/pigeonhole.json`, { messages: [] })
  }

  add(raw: Buffer, about: Omit<Caught, 'id'>): Caught {
    const caught = { id: randomBytes(9).toString('base64url'), ...about }
    writeFileSync(this.fileOf(caught.id), raw)
    this.stored.value.messages.push(caught)
    this.stored.save()
    return caught
  }

  /** Addresses with how many messages each has, the one with the newest first. */
  inboxes(): { address: string, count: number, newest: string }[] {
    const found = new Map<string, { address: string, count: number, newest: string }>()
    for (const message of this.stored.value.messages) {
      for (const address of message.to) {
        const inbox = found.get(address) ?? { address, count: 0, newest: '' }
        found.set(address, { address, count: inbox.count + 1, newest: message.at })
      }
    }
    return [...found.values()].sort((a, b) => (a.newest < b.newest ? 1 : -1))
  }

  inbox(address: string): Caught[] {
    return this.stored.value.messages.filter(message => message.to.includes(address.toLowerCase())).reverse()
  }

  message(id: string): { about: Caught, raw: Buffer } | null {
    const about = this.stored.value.messages.find(message => message.id === id)
    return about ? { about, raw: readFileSync(this.fileOf(id)) } : null
  }

  private fileOf(id: string): string {
    return `${this.folder}/mail/${id}.eml`
  }
}
