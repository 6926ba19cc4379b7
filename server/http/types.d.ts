import type { Context } from '../context'

declare module 'h3' {
  interface H3EventContext {
    app?: Context
  }
}

declare module '#auth-utils' {
  interface User {
    workspaceId: string
    memberId: string
  }
}

export {}
