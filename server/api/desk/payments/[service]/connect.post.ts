import { readBodyOf } from '../../../../http/body'
import { enforceRateLimit } from '../../../../http/limits'
import { defineDeskCall } from '../../../../http/member'
import { check, notFound, param } from '../../../../http/problem'
import { credentialsSchema, fieldsSchema } from '../../../../http/requests'
import { throughService } from '../../../../http/service-fault'
import { connectPayments } from '../../../../payments'

export default defineDeskCall('POST /api/desk/payments/{service}/connect', async (event, context, { workspaceId }) => {
  const key = param(event, 'service')
  const service = context.payments.get(key)
  if (!service) throw notFound()
  await enforceRateLimit(event, context, 'connect', workspaceId)
  const given = check(fieldsSchema(service.fields), (await readBodyOf(event, credentialsSchema)).fields)
  return { label: await throughService(service.name, () => connectPayments(context, workspaceId, key, service, given)) }
})
