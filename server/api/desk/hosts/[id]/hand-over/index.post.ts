import { handOver } from '../../../../../booking'
import { readBodyOf } from '../../../../../http/body'
import { defineDeskCall } from '../../../../../http/member'
import { idParam } from '../../../../../http/problem'
import { handOverSchema } from '../../../../../http/requests'

export default defineDeskCall('POST /api/desk/hosts/{id}/hand-over', async (event, context, member) => {
  const from = idParam(event, 'id')
  const { seats } = await readBodyOf(event, handOverSchema)
  const results = []
  // One after the other: each counts with those before it.
  for (const { sessionId, to } of seats) {
    const outcome = await handOver(context, member.workspaceId, { sessionId, from, to }, { kind: 'member', name: member.name })
    results.push({ sessionId, outcome: outcome.kind, to: outcome.kind === 'handedOver' ? outcome.to : null })
  }
  return { results }
})
