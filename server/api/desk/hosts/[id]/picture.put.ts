import { readBytes } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, notFound, refuse } from '../../../../http/problem'
import { makePicture, savePicture } from '../../../../people'

const MOST_BYTES = 8 * 1024 * 1024

export default defineDeskCall('PUT /api/desk/hosts/{id}/picture', async (event, context, { workspaceId }) => {
  const made = await makePicture(await readBytes(event, MOST_BYTES))
  if (!made) throw refuse(422, 'picture', 'notAPicture', {})
  const picture = await savePicture(context, workspaceId, idParam(event, 'id'), made)
  if (!picture) throw notFound()
  return { picture }
})
