import { texts } from '~/locales/common'

/**
 * A problem document as the interface answers it (RFC 9457). It is read by hand: clients' pages need it at once, and the
 * library for schemas would be a seventh of their script.
 */
export interface ProblemDocument {
  title: string
  status: number
  detail: string
  errors?: { path: string, message: string }[]
  created?: { id: string, page: string }
  nearest?: { start: string, end: string, seatsLeft: number }[]
  /** Why a time is no opening, in sentences. */
  reasons?: string[]
}

function isProblem(data: unknown): data is ProblemDocument {
  return typeof data === 'object' && data !== null && 'title' in data && 'status' in data && 'detail' in data
    && typeof data.detail === 'string' && typeof data.status === 'number'
    && [Reflect.get(data, 'errors'), Reflect.get(data, 'nearest'), Reflect.get(data, 'reasons')].every(list => list === undefined || Array.isArray(list))
}

/** What went wrong, as a sentence for the person; null `document` where no answer came at all. */
export function problemOf(error: unknown): { message: string, document: ProblemDocument | null } {
  const data = typeof error === 'object' && error !== null && 'data' in error ? error.data : undefined
  if (isProblem(data)) return { message: data.detail, document: data }
  return { message: texts.noAnswer, document: null }
}

export function fieldErrors(document: ProblemDocument | null): Record<string, string> {
  return Object.fromEntries((document?.errors ?? []).map(error => [error.path, error.message]))
}
