import { Readable } from 'node:stream'
import { defineDeskCall } from '../../../../http/member'
import { JsonStream } from '../../../../json-text'
import { idParam } from '../../../../http/problem'
import { readLedger } from '../../../../rotation'

export default defineDeskCall('GET /api/desk/rotation/{id}/ledger', async (event, { db }, member) =>
  new JsonStream(Readable.from(readLedger(db, member.workspaceId, idParam(event, 'id')), { objectMode: false })))
