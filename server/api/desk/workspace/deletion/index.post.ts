import { readBodyOf } from '../../../../http/body'
import { enforceRateLimit } from '../../../../http/limits'
import { defineDeskCall } from '../../../../http/member'
import { refuse } from '../../../../http/problem'
import { deletionSchema } from '../../../../http/requests'
import { askForDeletion } from '../../../../people'

export default defineDeskCall('POST /api/desk/workspace/deletion', async (event, context, member) => {
  const body = await readBodyOf(event, deletionSchema)
  await enforceRateLimit(event, context, 'signIn', member.email)
  switch (await askForDeletion(context, member, body)) {
    case 'wrongPassword': throw refuse(422, 'password', 'wrongOwnPassword', {})
    case 'wrongAddress': throw refuse(422, 'slug', 'otherWorkspaceAddress', {})
    case 'asked': return { asked: true }
  }
})
