import { simpleParser } from 'mailparser'
import { SMTPServer } from 'smtp-server'
import { takeFault } from '../shared/faults'
import type { PigeonholeStore } from './store'

const MOST_BYTES = 10 * 1024 * 1024

/** An SMTP server that takes mail for anybody and keeps it. */
export function pigeonholeSmtp(store: PigeonholeStore, port: number): Promise<SMTPServer> {
  const server = new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: MOST_BYTES,
    logger: false,
    onRcptTo({ address }, _session, done) {
      done(/@nowhere\.example$/i.test(address) ? withCode(550, '5.1.1 No such mailbox') : null)
    },
    onData(stream, session, done) {
      const chunks: Buffer[] = []
      stream.on('data', (chunk: Buffer) => chunks.push(chunk))
      stream.on('end', () => {
        receive(Buffer.concat(chunks), session.envelope.rcptTo.map(recipient => recipient.address.toLowerCase()), session.id).then(
          fault => done(fault), (error: unknown) => done(error instanceof Error ? error : new Error(String(error))))
      })
    },
  })
  async function receive(raw: Buffer, to: string[], sessionId: string): Promise<Error | null> {
    const fault = takeFault(store)
    if (fault.kind === 'slow') await new Promise(resolve => setTimeout(resolve, fault.seconds * 1000))
    if (fault.kind === 'failing') return withCode(451, 'Pigeonhole is full for a moment')
    if (fault.kind === 'garbled') return withCode(599, '\u0007\u0007 200 OK perhaps')
    if (fault.kind === 'refusing') return withCode(550, 'Not taken here')
    const mail = await simpleParser(raw)
    store.add(raw, {
      to,
      from: mail.from?.text ?? '',
      subject: mail.subject ?? '',
      messageId: mail.messageId ?? '',
      at: new Date().toISOString(),
    })
    if (fault.kind === 'losing') dropConnection(server, sessionId)
    return null
  }

  return new Promise((resolve, reject) => {
    server.on('error', reject)
    server.listen(port, '127.0.0.1', () => {
      server.removeListener('error', reject)
      // A client that breaks off is its own affair.
      server.on('error', () => {})
      resolve(server)
    })
  })
}

/** Breaks the connection of one session after its mail was kept and before it is answered. */
function dropConnection(server: SMTPServer, sessionId: string): void {
  for (const connection of server.connections) {
    if ('id' in connection && connection.id === sessionId && '_socket' in connection) {
      const socket = connection._socket
      if (socket && typeof socket === 'object' && 'destroy' in socket && typeof socket.destroy === 'function') socket.destroy()
    }
  }
}

function withCode(responseCode: number, message: string): Error {
  return Object.assign(new Error(message), { responseCode })
}
