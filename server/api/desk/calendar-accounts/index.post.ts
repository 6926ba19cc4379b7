import { getHeader, type H3Event, setResponseStatus } from 'h3'
import { newAccountSchema, uploadedFileSchema } from '../../../../core/views/calendars'
import { connect, type ConnectOutcome, listAccounts, mayConnectCalendars, upload, type UploadOutcome } from '../../../calendar-sync'
import type { Context } from '../../../context'
import { readBodyOf, readBytes } from '../../../http/body'
import { enforceRateLimit } from '../../../http/limits'
import { defineDeskCall } from '../../../http/member'
import { check, notFound, refuse } from '../../../http/problem'

/** What is around the file may take as much again as its name. */
const MOST_BYTES = 20_100_000

export default defineDeskCall('POST /api/desk/calendar-accounts', async (event, context, member) => {
  const requireHost = async (hostId: string) => {
    if (!await mayConnectCalendars(context.db, member, hostId)) throw notFound()
  }
  const outcome = (getHeader(event, 'content-type') ?? '').startsWith('multipart/form-data')
    ? await uploadFile(event, context, member.workspaceId, requireHost)
    : await connectAddress(event, context, member.workspaceId, requireHost)
  switch (outcome.kind) {
    case 'refused': throw refuse(422, 'address', 'calendarRefused', outcome.fault)
    case 'notACalendar': throw refuse(422, 'file', 'notACalendar', {})
    case 'tooMany': throw refuse(422, 'hostId', 'tooManyCalendarAccounts', { most: outcome.most })
    case 'connected': {
      const [account] = await listAccounts(context.db, member, outcome.id)
      if (!account) throw notFound()
      setResponseStatus(event, 201)
      return account
    }
  }
})

type RequireHost = (hostId: string) => Promise<void>

async function connectAddress(event: H3Event, context: Context, workspaceId: string, requireHost: RequireHost): Promise<ConnectOutcome> {
  const request = await readBodyOf(event, newAccountSchema)
  await requireHost(request.hostId)
  // Each try makes us ask somebody else's server, perhaps for a password.
  await enforceRateLimit(event, context, 'connect', workspaceId)
  return connect(context, workspaceId, request)
}

async function uploadFile(event: H3Event, context: Context, workspaceId: string, requireHost: RequireHost): Promise<UploadOutcome> {
  const bytes = await readBytes(event, MOST_BYTES)
  const form = await new Response(new Uint8Array(bytes), { headers: { 'content-type': getHeader(event, 'content-type') ?? '' } }).formData()
    .catch(() => null)
  const file = form?.get('file')
  if (!form || !(file instanceof Blob)) throw refuse(400, 'file', 'required', {})
  const { hostId, name } = check(uploadedFileSchema, { hostId: form.get('hostId') ?? undefined, name: form.get('name') ?? undefined })
  await requireHost(hostId)
  return upload(context, workspaceId, { hostId, name, text: await file.text() })
}
