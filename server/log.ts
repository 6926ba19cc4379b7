import { databaseFault } from './database/faults'

/**
 * What the process writes to its log. Messages of errors, statement parameters, paths and payloads can hold what people
 * entered or the tokens of their pages, so only codes, names and places in the code are written.
 */

export type FaultReport = (where: string, error: unknown) => void

export const silent: FaultReport = () => {}

export const logFault: FaultReport = (where, error) => {
  process.stderr.write(`${new Date().toISOString()} ${where}: ${describeFault(error)}\n`)
}

/** Names, codes and stack frames of an error and its causes, without any message. */
export function describeFault(error: unknown): string {
  const parts: string[] = []
  for (let cause = error; cause instanceof Error && parts.length < MOST_CAUSES; cause = cause.cause) {
    const code = 'code' in cause && typeof cause.code === 'string' ? ` ${cause.code}` : ''
    const frames = (cause.stack ?? '').split('\n').filter(line => /^\s+at /.test(line)).slice(0, MOST_FRAMES).map(line => line.trim())
    parts.push([`${cause.name}${code}`, ...frames].join('\n    '))
  }
  const fault = databaseFault(error)
  if (fault) parts.push(`SQLSTATE ${fault.code}${fault.constraint ? ` (${fault.constraint})` : ''}`)
  return parts.join('\n  caused by ') || typeof error
}

const MOST_CAUSES = 4
const MOST_FRAMES = 8

/** Lets libraries write through a console only what is safe to keep. */
export function writeSafely(target: Pick<Console, 'log' | 'info' | 'warn' | 'error' | 'debug'>): void {
  const write = (...parts: unknown[]) => {
    process.stderr.write(
      `${parts.map(part => (part instanceof Error ? describeFault(part) : redact(typeof part === 'string' ? part : typeof part))).join(' ')}\n`,
    )
  }
  for (const level of ['log', 'info', 'warn', 'error', 'debug'] as const) target[level] = write
}

/** What is left of a line that a library writes: no addresses of people, no tokens, no parameters of statements. */
export function redact(text: string): string {
  return text
    .replace(/\bparams: [\s\S]*?(?=\n\s+at |\n\n|$)/g, 'params: …')
    .replace(/[\w.+%-]+@[\w-]+(\.[\w-]+)+/g, '…@…')
    .replace(/\/bookings\/[^\s/?"']+/g, '/bookings/…')
    .replace(/\b[A-Za-z0-9_-]{40,}\b/g, '…')
    .replace(/\?[^\s"']+/g, '?…')
}
