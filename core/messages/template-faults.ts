import { distance } from 'fastest-levenshtein'
import type { Fault } from '../validation'

/** What is wrong with a template, in codes: the library behind the engine knows only English sentences. */

/** A template that is refused or cannot be rendered. */
export class TemplateError extends Error {
  constructor(readonly fault: Fault, readonly line = 1) {
    super(fault.code)
    this.name = 'TemplateError'
  }
}

export type Fields = Readonly<Record<string, unknown>>

/** A fault and the line that it stands in, from 1. */
export interface TemplateFault {
  line: number
  fault: Fault
}

/** What an error of the library means; it has no codes, and wraps what our own filters throw. */
export function faultOf(error: unknown, fields: Fields): TemplateFault {
  const line = lineOf(error)
  const own = ownError(error)
  if (own) return { line: Math.max(line, own.line), fault: own.fault }
  const message = error instanceof Error ? error.message : ''
  const found = (fault: Fault): TemplateFault => ({ line, fault })
  if (/limit exceeded/.test(message)) return found({ code: 'templateTooLarge', values: {} })
  const [, variable] = /undefined variable: ([\w.[\]"']+)/.exec(message) ?? []
  if (variable) return found(unknownField(variable, fields))
  const [, filter] = /undefined filter: (\w+)/.exec(message) ?? []
  if (filter) return found({ code: 'templateFilter', values: { name: filter } })
  const [, tag] = /tag "([^"]+)" not found/.exec(message) ?? []
  if (tag) return found({ code: 'templateTag', values: { name: tag } })
  const [, open] = /tag \{%-?\s*(\w+).*not closed/s.exec(message) ?? []
  if (open) return found({ code: 'templateOpen', values: { tag: open } })
  return found({ code: 'templateUnreadable', values: { field: fieldNames(fields)[0] ?? '' } })
}

function ownError(error: unknown): TemplateError | null {
  if (error instanceof TemplateError) return error
  if (!(error instanceof Error)) return null
  return ownError(error.cause ?? ('originalError' in error ? error.originalError : null))
}

interface Positioned {
  getPosition: () => [number, number]
}

function isPositioned(token: unknown): token is Positioned {
  return typeof token === 'object' && token !== null && 'getPosition' in token && typeof token.getPosition === 'function'
}

function lineOf(error: unknown): number {
  const token = error instanceof Error && 'token' in error ? error.token : null
  return isPositioned(token) ? token.getPosition()[0] : 1
}

/** So many fields can be named one after the other; of more, those that look like what was written. */
const MOST_NAMED = 3

export function unknownField(name: string, fields: Fields): Fault {
  const names = fieldNames(fields)
  return { code: 'templateField', values: { name, fields: names.length > MOST_NAMED ? similar(name, names) : names } }
}

function similar(name: string, names: readonly string[]): string[] {
  const ranked = names.map(candidate => ({ candidate, edits: distance(name.toLowerCase(), candidate.toLowerCase()) }))
  const near = ranked.filter(({ edits }) => edits <= Math.max(2, name.length / 4)).toSorted((a, b) => a.edits - b.edits)
  return near.slice(0, 1).map(({ candidate }) => candidate)
}

/** The names by which a template writes fields: `client.name`. */
export function fieldNames(fields: Fields, prefix = ''): string[] {
  return Object.entries(fields).flatMap(([name, value]) =>
    typeof value === 'object' && value !== null && !Array.isArray(value)
      ? fieldNames(Object.fromEntries(Object.entries(value)), `${prefix}${name}.`)
      : [`${prefix}${name}`],
  )
}

/** Whether a path leads to something that can be printed: a text, a truth value, a list. */
export function isField(fields: Fields, segments: readonly unknown[]): boolean {
  const value = valueAt(fields, segments)
  return value !== undefined && (typeof value !== 'object' || Array.isArray(value))
}

export function valueAt(fields: Fields, segments: readonly unknown[]): unknown {
  return segments.reduce<unknown>((value, segment) => {
    if (typeof value !== 'object' || value === null || typeof segment !== 'string' || !Object.hasOwn(value, segment)) return undefined
    return Object.entries(value).find(([name]) => name === segment)?.[1]
  }, fields)
}
