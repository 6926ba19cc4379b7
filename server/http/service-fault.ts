import { ServiceFault } from '../ports/service'
import { problem } from './problem'

/** Work that asks a service while somebody waits for the answer; its fault becomes a problem in words. */
export async function throughService<Result>(name: string, work: () => Promise<Result>): Promise<Result> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof ServiceFault) throw problem('outsideService', 'outsideService', { by: name, fault: error.fault })
    throw error
  }
}
