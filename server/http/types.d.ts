import type { Context } from '../context'

declare module 'h3' {
  interface H3EventContext {
    app?: Context
    /** Whether this process runs jobs right now. */
    jobsRunning?: () => boolean
  }
}

export {}
