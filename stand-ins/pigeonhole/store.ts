import { randomBytes } from 'node:crypto'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { type Fault, noFault } from '../shared/faults'
import { Kept } from '../shared/keep'

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
  private readonly kept: Kept<{ messages: Caught[] }>
  fault: Fault = noFault

  constructor(private readonly folder: string) {
    mkdirSync(`${folder}/mail`, { recursive: true })
    this.kept = new Kept(`${folder}/pigeonhole.json`, { messages: [] })
  }

  add(raw: Buffer, about: Omit<Caught, 'id'>): Caught {
    const caught = { id: randomBytes(9).toString('base64url'), ...about }
    writeFileSync(this.fileOf(caught.id), raw)
    this.kept.value.messages.push(caught)
    this.kept.save()
    return caught
  }

  /** Addresses with how many messages each has, the one with the newest first. */
  inboxes(): { address: string, count: number, newest: string }[] {
    const found = new Map<string, { address: string, count: number, newest: string }>()
    for (const message of this.kept.value.messages) {
      for (const address of message.to) {
        const inbox = found.get(address) ?? { address, count: 0, newest: '' }
        found.set(address, { address, count: inbox.count + 1, newest: message.at })
      }
    }
    return [...found.values()].sort((a, b) => (a.newest < b.newest ? 1 : -1))
  }

  inbox(address: string): Caught[] {
    return this.kept.value.messages.filter(message => message.to.includes(address.toLowerCase())).reverse()
  }

  message(id: string): { about: Caught, raw: Buffer } | null {
    const about = this.kept.value.messages.find(message => message.id === id)
    return about ? { about, raw: readFileSync(this.fileOf(id)) } : null
  }

  private fileOf(id: string): string {
    return `${this.folder}/mail/${id}.eml`
  }
}
