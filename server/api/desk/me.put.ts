import { readBodyOf } from '../../http/body'
import { defineDeskCall } from '../../http/member'
import { notFound } from '../../http/problem'
import { preferencesSchema } from '../../http/requests'
import { updateMember } from '../../people'

export default defineDeskCall('PUT /api/desk/me', async (event, context, member) => {
  const updated = await updateMember(context, member, await readBodyOf(event, preferencesSchema))
  if (!updated) throw notFound('nothingHere')
  return updated
})
