import { titleFault } from '../../../../../core/messages'
import { publishDefinition } from '../../../../event-types'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, invalid, notFound, problem } from '../../../../http/problem'
import { publishSchema } from '../../../../http/requests'

export default defineDeskCall('POST /api/desk/event-types/{id}/publish', async (event, context, member) => {
  const { basedOn, definition } = await readBodyOf(event, publishSchema)
  const fault = titleFault(definition.settings.calendarTitle)
  if (fault) throw invalid(422, [{ ...fault, path: 'definition.settings.calendarTitle' }])
  const outcome = await publishDefinition(context, member.workspaceId, idParam(event, 'id'), member, basedOn, definition)
  switch (outcome.kind) {
    case 'notFound':
      throw notFound()
    case 'invalid':
      throw invalid(
        422,
        outcome.errors.map(error => ({ ...error, path: `definition.${error.path}` })),
      )
    case 'changedMeanwhile':
      throw problem('changedMeanwhile', 'publishedMeanwhile', { by: outcome.theirs.by }, { theirs: outcome.theirs })
    case 'published':
      return { version: outcome.version }
  }
})
