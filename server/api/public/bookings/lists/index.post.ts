import { setResponseStatus } from 'h3'
import { askForList } from '../../../../booking'
import { readBodyOf } from '../../../../http/body'
import { defineCall } from '../../../../http/define'
import { enforceRateLimit } from '../../../../http/limits'
import { workspaceOfSlug } from '../../../../http/public'
import { listRequestSchema } from '../../../../http/requests'

export default defineCall('POST /api/public/bookings/lists', async (event, context) => {
  await enforceRateLimit(event, context, 'booking')
  const { workspace: slug, email } = await readBodyOf(event, listRequestSchema)
  await askForList(context, (await workspaceOfSlug(event, context, slug)).workspace.id, email)
  setResponseStatus(event, 202)
  return { asked: true as const }
})
