import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, problem } from '../../../../http/problem'
import { markedPaymentSchema } from '../../../../http/requests'
import { markPaid } from '../../../../payments'

export default defineDeskCall('POST /api/desk/bookings/{id}/payment', async (event, context, member) => {
  const { paid } = await readBodyOf(event, markedPaymentSchema)
  const isMarked = await markPaid(context, member.workspaceId, idParam(event, 'id'), paid, { kind: 'member', name: member.name })
  if (!isMarked) throw problem('notPossible', 'nothingToPay', {})
  return { marked: true }
})
