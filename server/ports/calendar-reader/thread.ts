import { parentPort } from 'node:worker_threads'
import { readObjects, type ReadRequest } from './read'

/** The program of the thread that reads calendars. It is bundled into one text when the application is built. */

parentPort?.on('message', ({ id, request }: { id: number, request: ReadRequest }) => {
  try {
    parentPort?.postMessage({ id, objects: readObjects(request) })
  } catch (error) {
    parentPort?.postMessage({ id, error: error instanceof Error ? error.message : String(error) })
  }
})
