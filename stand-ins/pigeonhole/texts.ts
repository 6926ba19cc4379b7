import { createRouter, defineEventHandler, getHeader, type H3Event, type Router, setResponseStatus } from 'h3'
import { z } from 'zod'
import { takeFault } from '../shared/faults'
import { readMembers } from '../shared/serve'
import type { PigeonholeStore } from './store'

/** Takes texts to phones and keeps them: what docs/messages.md says of a service for phone texts. */

const textSchema = z.object({ from: z.string().min(1).max(20), to: z.string().regex(/^\+\d{5,15}$/), text: z.string().min(1).max(2000) })

/** Numbers that no phone has. */
const NOWHERE = /00000$/

export function pigeonholeTexts(store: PigeonholeStore, token: string): Router {
  const router = createRouter()
  router.post('/texts', defineEventHandler(async (event) => {
    const fault = takeFault(store)
    if (fault.kind === 'slow') await new Promise(resolve => setTimeout(resolve, fault.seconds * 1000))
    if (fault.kind === 'failing') return refuse(event, 503, 'busy', 'Pigeonhole is full for a moment')
    if (fault.kind === 'garbled') return refuse(event, 500, '', '\u0007\u0007 perhaps')
    if (fault.kind === 'refusing') return refuse(event, 422, 'refused', 'Not taken here')
    if (getHeader(event, 'authorization') !== `Bearer ${token}`) return refuse(event, 401, 'unauthorized', 'The token is not known')
    const id = getHeader(event, 'idempotency-key')
    const text = textSchema.safeParse(await readMembers(event))
    if (!id || !text.success) return refuse(event, 400, 'malformed', 'An Idempotency-Key and { from, to, text } are needed')
    if (NOWHERE.test(text.data.to)) return refuse(event, 422, 'unknownNumber', 'No phone has this number')
    store.addText({ id, ...text.data, at: new Date().toISOString() })
    if (fault.kind === 'losing') event.node.req.socket.destroy()
    setResponseStatus(event, 202)
    return { id }
  }))
  return router
}

function refuse(event: H3Event, status: number, code: string, message: string) {
  setResponseStatus(event, status)
  return { code, message }
}
