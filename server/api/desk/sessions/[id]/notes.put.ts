import { saveNotes } from '../../../../booking'
import { readBodyOf } from '../../../../http/body'
import { defineDeskCall } from '../../../../http/member'
import { idParam, problem } from '../../../../http/problem'
import { savedNotesSchema } from '../../../../http/requests'

export default defineDeskCall('PUT /api/desk/sessions/{id}/notes', async (event, context, member) => {
  const { basedOn, ...wanted } = await readBodyOf(event, savedNotesSchema)
  const saved = await saveNotes(context, member.workspaceId, idParam(event, 'id'), wanted, basedOn)
  if (saved === null) throw problem('changedMeanwhile', 'notesChanged', {})
  return { version: saved }
})
