import type { Context } from '../context'

declare module 'h3' {
  interface H3EventContext {
    app?: Context
  }
}

export {}
