import { z } from 'zod'
import { bookingView, cancelByToken } from '../../../../booking'
import { defineCall, notFound, param, readBodyOf } from '../../../../http/problem'
import { bookingOfToken } from '../../../../http/token'

export const cancelSchema = z.strictObject({ reason: z.string().trim().max(500, 'At most 500 characters').optional() })

export default defineCall(async (event, context) => {
  await bookingOfToken(event, context)
  const { reason } = await readBodyOf(event, cancelSchema)
  const story = await cancelByToken(context, param(event, 'token'), reason || null)
  if (!story) throw notFound()
  return { booking: bookingView(story) }
})
