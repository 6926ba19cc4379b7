import { randomBytes } from 'node:crypto'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { type Fault, noFault } from '../shared/faults'
import { StoredValue } from '../shared/stored-value'

/** Mail and phone texts that were caught: an index, and each raw mail in a file of its own. */

export interface Caught {
  id: string
  to: string[]
  from: string
  subject: string
  messageId: string
  at: string
}

/** A text to a phone. `id` is its sender's, and the same for each try. */
export interface CaughtText {
  id: string
  to: string
  from: string
  text: string
  at: string
}

export class PigeonholeStore {
  private readonly stored: StoredValue<{ messages: Caught[], texts?: CaughtText[] }>
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

  /** Keeps a text; one that it has already, under the same id, counts once. */
  addText(caught: CaughtText): void {
    const texts = this.stored.value.texts ??= []
    if (texts.some(({ id, to }) => id === caught.id && to === caught.to)) return
    texts.push(caught)
    this.stored.save()
  }

  texts(number: string): CaughtText[] {
    return (this.stored.value.texts ?? []).filter(({ to }) => to === number).reverse()
  }

  /** Addresses and numbers with how many messages each has, the one with the newest first. */
  inboxes(): { address: string, count: number, newest: string }[] {
    const found = new Map<string, { address: string, count: number, newest: string }>()
    const texts = (this.stored.value.texts ?? []).map(({ to, at }) => ({ to: [to], at }))
    for (const message of [...this.stored.value.messages, ...texts]) {
      for (const address of message.to) {
        const inbox = found.get(address) ?? { address, count: 0, newest: '' }
        found.set(address, { address, count: inbox.count + 1, newest: inbox.newest > message.at ? inbox.newest : message.at })
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
