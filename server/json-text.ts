import type { Readable } from 'node:stream'

/** A JSON answer that is text already, typed as the value that it stands for. */
export class JsonText<Value> {
  /** Only for the type: the value is not here. */
  declare readonly value: Value

  constructor(readonly text: string) {}

  static of<Value>(value: Value): JsonText<Value> {
    return new JsonText(JSON.stringify(value))
  }

  /** A non-empty object with further parts, whose text is made already. */
  static with<Value extends object, Parts extends object>(
    value: Value, parts: { [Name in keyof Parts]: JsonText<Parts[Name]> },
  ): JsonText<Value & Parts> {
    const more = Object.entries<JsonText<unknown>>(parts).map(([name, { text }]) => `,${JSON.stringify(name)}:${text}`)
    return new JsonText(`${JSON.stringify(value).slice(0, -1)}${more.join('')}}`)
  }
}

/** A JSON answer that comes as text bit by bit, as it is too large to hold at once. */
export class JsonStream<Value> {
  declare readonly value: Value

  constructor(readonly stream: Readable) {}
}

/** An answer as a value, or as the text of one. */
export type Answering<Value> = Value | JsonText<Value> | JsonStream<Value>
