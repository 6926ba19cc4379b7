import { offerVideo } from '../../../event-types'
import { readBodyOf } from '../../../http/body'
import { defineDeskCall } from '../../../http/member'
import { byVideoSchema } from '../../../http/requests'

export default defineDeskCall('POST /api/desk/event-types/by-video', async (event, context, member) => {
  const { ids } = await readBodyOf(event, byVideoSchema)
  return { changed: await offerVideo(context, member, ids) }
})
