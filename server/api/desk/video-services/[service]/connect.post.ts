import { readBodyOf } from '../../../../http/body'
import { enforceRateLimit } from '../../../../http/limits'
import { defineDeskCall } from '../../../../http/member'
import { check, notFound, param } from '../../../../http/problem'
import { credentialsSchema, fieldsSchema } from '../../../../http/requests'
import { throughService } from '../../../../http/service-fault'
import { connectByCredentials } from '../../../../rooms'

export default defineDeskCall('POST /api/desk/video-services/{service}/connect', async (event, context, { workspaceId }) => {
  const key = param(event, 'service')
  const service = context.video.get(key)
  if (service?.connection.way !== 'credentials') throw notFound()
  const { connection, name } = service
  await enforceRateLimit(event, context, 'connect', workspaceId)
  const given = check(fieldsSchema(connection.fields), (await readBodyOf(event, credentialsSchema)).fields)
  return { label: await throughService(name, () => connectByCredentials(context, workspaceId, key, connection, given)) }
})
