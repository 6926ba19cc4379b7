import type { z } from 'zod'
import type { VideoService, VideoServices } from '.'
import { createLanternRooms, lanternEnvironment } from './lantern'
import { createQuaysideVideo, quaysideEnvironment } from './quayside'

/** Every video service this application can speak to: a row each, and its settings in the environment. */

export const videoEnvironment = { ...lanternEnvironment, ...quaysideEnvironment }

export type VideoEnvironment = z.output<z.ZodObject<typeof videoEnvironment>>

const rows: Record<string, (environment: VideoEnvironment, timeoutSeconds: number) => VideoService | null> = {
  lantern: createLanternRooms,
  quayside: createQuaysideVideo,
}

/** The services whose settings are given. */
export function createVideoServices(environment: VideoEnvironment, timeoutSeconds: number): VideoServices {
  return new Map(Object.entries(rows).flatMap(([key, create]) => {
    const service = create(environment, timeoutSeconds)
    return service ? [[key, service]] : []
  }))
}
