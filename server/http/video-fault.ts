import { VideoFault } from '../ports/video'
import { problem } from './problem'

/** Work that asks a video service while somebody waits for the answer; its fault becomes a problem in words. */
export async function throughVideoService<Result>(name: string, work: () => Promise<Result>): Promise<Result> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof VideoFault) throw problem('videoService', 'videoService', { by: name, fault: error.fault })
    throw error
  }
}
