import { parentPort, workerData } from 'node:worker_threads'
import { register } from 'tsx/esm/api'

/** The bench's web worker as Node runs one: what is known crosses once, then a definition with every keystroke. */
register()
const { consequencesOf } = await import('../../core/event-type/consequences.ts')
const { findingsOf } = await import('../../core/checks/index.ts')
const { workerContext, span } = workerData
parentPort.on('message', definition => parentPort.postMessage({ ...consequencesOf(definition, workerContext, span), findings: findingsOf({ ...workerContext, definition }) }))
