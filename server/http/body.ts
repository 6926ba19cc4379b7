import type { IncomingMessage } from 'node:http'
import type { H3Event } from 'h3'
import type { z } from 'zod'
import { check, problem, refuse } from './problem'

/** Reading request bodies: bounded while they come in, in size, in time and in how deep they nest. */

export const MOST_BYTES = 256 * 1024
const BODY_SECONDS = 10
const UPLOAD_SECONDS = 60
const MOST_DEPTH = 40

/**
 * Reads a JSON body and checks it. Throws Problem 400 naming each field at fault, 408 for a body that takes too long,
 * 413 for one that is too large.
 */
export async function readBodyOf<Schema extends z.ZodType>(event: H3Event, schema: Schema): Promise<z.output<Schema>> {
  const text = await readText(event.node.req)
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    throw refuse(400, '', 'notJson', {})
  }
  if (isDeeper(value, MOST_DEPTH)) throw refuse(400, '', 'tooDeep', { most: MOST_DEPTH })
  return check(schema, value)
}

/** Reads a body of bytes. Throws like `readBodyOf`. */
export function readBytes(event: H3Event, most: number): Promise<Buffer> {
  return readBounded(event.node.req, most, UPLOAD_SECONDS)
}

async function readText(request: IncomingMessage): Promise<string> {
  // A body that the page renderer hands over within the process has been read already.
  if ('body' in request && typeof request.body === 'string') return request.body
  return (await readBounded(request, MOST_BYTES, BODY_SECONDS)).toString('utf8')
}

function readBounded(request: IncomingMessage, most: number, seconds: number): Promise<Buffer> {
  const tooLarge = () => problem('tooLarge', 'bodyTooLarge', { kilobytes: most / 1024 })
  if (Number(request.headers['content-length'] ?? 0) > most) return Promise.reject(tooLarge())
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = []
    let size = 0
    const finish = (settle: () => void) => {
      clearTimeout(timer)
      request.off('data', take).off('end', end).off('error', fail).off('close', gone)
      settle()
    }
    const take = (chunk: Buffer) => {
      size += chunk.length
      if (size > most) finish(() => reject(tooLarge()))
      else chunks.push(chunk)
    }
    const end = () => finish(() => resolve(Buffer.concat(chunks)))
    const fail = (error: Error) => finish(() => reject(error))
    const gone = () => finish(() => reject(problem('brokenOff', 'bodyBrokenOff', {})))
    const timer = setTimeout(
      () => finish(() => reject(problem('tooSlow', 'bodyTooSlow', { seconds }))),
      seconds * 1000,
    )
    request.on('data', take).on('end', end).on('error', fail).on('close', gone)
  })
}

/** Whether a value nests deeper than a number of levels; walks without recursion. */
function isDeeper(value: unknown, levels: number): boolean {
  let layer: unknown[] = [value]
  for (let depth = 0; layer.length > 0; depth++) {
    if (depth > levels) return true
    layer = layer.flatMap(item => (typeof item === 'object' && item !== null ? Object.values(item) : []))
  }
  return false
}
