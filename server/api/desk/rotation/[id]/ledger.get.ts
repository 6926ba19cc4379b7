import { Readable } from 'node:stream'
import { defineDeskCall } from '../../../../http/member'
import { JsonStream } from '../../../../http/json-text'
import { idParam } from '../../../../http/problem'
import { readLedger } from '../../../../rotation'

export default defineDeskCall('GET /api/desk/rotation/{id}/ledger', async (event, { db }, member) =>
  new JsonStream(Readable.from(ledgerText(readLedger(db, member.workspaceId, idParam(event, 'id'))), { objectMode: false })))

async function* ledgerText(parts: AsyncIterable<readonly unknown[]>): AsyncGenerator<string> {
  let before = '{"version":1,"entries":['
  for await (const part of parts) {
    yield before + part.map(entry => JSON.stringify(entry)).join(',')
    before = ','
  }
  yield before === ',' ? ']}' : `${before}]}`
}
