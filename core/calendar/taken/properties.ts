import ICAL from 'ical.js'
import type { Block } from './blocks'

/** The content lines of a block as ical.js reads them. */

export interface Property {
  /** In small letters. */
  name: string
  parameters: Readonly<Record<string, unknown>>
  /** `date-time`, `date`, `period`, … */
  type: string
  values: readonly unknown[]
  /** The value as it stands in the text. */
  written: string
}

/** Without those that cannot be read, which `refused` is told of. */
export function propertiesOf(block: Block, refused: (line: string) => void = () => {}): Property[] {
  return block.lines.flatMap((line) => {
    try {
      const [name, parameters, type, ...values]: unknown[] = ICAL.parse.property(line)
      return [{ name: String(name), parameters: isRecord(parameters) ? parameters : {}, type: String(type), values, written: line.slice(line.lastIndexOf(':') + 1) }]
    } catch {
      refused(line)
      return []
    }
  })
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null
}

/** A parameter's text; the first of several. */
export function parameterOf({ parameters }: Property, name: string): string {
  const value = parameters[name]
  return String((Array.isArray(value) ? value[0] : value) ?? '')
}
