import type { ServerResponse } from 'node:http'

/** Who is in a room right now: visitors wait until the host lets them in; those inside see and write to each other. */

export interface Person {
  id: string
  name: string
  role: 'host' | 'visitor'
  inside: boolean
  stream: ServerResponse
}

export interface Line {
  from: string
  text: string
}

export class Meeting {
  private readonly people = new Map<string, Person>()
  private readonly lines: Line[] = []

  constructor(private readonly entry: 'host' | 'open') {}

  arrive(id: string, name: string, role: Person['role'], stream: ServerResponse): void {
    this.people.set(id, { id, name, role, inside: role === 'host' || this.entry === 'open', stream })
    stream.on('close', () => {
      if (this.people.get(id)?.stream !== stream) return
      this.people.delete(id)
      this.tellAll()
    })
    this.tellAll()
  }

  /** Only a host who is there can let somebody in. */
  letIn(hostId: string, visitorId: string): boolean {
    const visitor = this.people.get(visitorId)
    if (this.people.get(hostId)?.role !== 'host' || !visitor) return false
    visitor.inside = true
    this.tellAll()
    return true
  }

  say(id: string, text: string): boolean {
    const person = this.people.get(id)
    if (!person?.inside || !text.trim()) return false
    this.lines.push({ from: person.name, text: text.trim().slice(0, 500) })
    this.tellAll()
    return true
  }

  private tellAll(): void {
    const all = [...this.people.values()]
    for (const person of all) {
      const state = {
        inside: person.inside,
        people: person.inside
          ? all.filter(item => item.inside).map(({ id, name, role }) => ({ id, name, role, you: id === person.id }))
          : [],
        waiting: person.role === 'host' ? all.filter(item => !item.inside).map(({ id, name }) => ({ id, name })) : [],
        lines: person.inside ? this.lines : [],
      }
      person.stream.write(`data: ${JSON.stringify(state)}\n\n`)
    }
  }
}
