import { parentPort } from 'node:worker_threads'
import { register } from 'tsx/esm/api'

/** The bench's web worker as Node runs one: the same computation, the same copying to and fro. */
register()
const { consequencesOf } = await import('../../core/openings/consequences.ts')
parentPort.on('message', query => parentPort.postMessage(consequencesOf(query)))
