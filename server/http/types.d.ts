import type { Context } from '../context'

declare module 'h3' {
  interface H3EventContext {
    app?: Context
    /** Under what the page that is being rendered will be remembered. */
    pageKey?: string
    /** The page's HTML, before it is compressed. */
    renderedPage?: string
  }
}

export {}
