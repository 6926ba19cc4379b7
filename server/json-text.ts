import type { Readable } from 'node:stream'

/** A JSON answer that is text already, typed as the value that it stands for. */
export class JsonText<Value> {
  /** Only for the type: the value is not here. */
  declare readonly value: Value

  constructor(readonly text: string) {}

  static of<Value>(value: Value): JsonText<Value> {
    return new JsonText(JSON.stringify(value))
  }

  /** An object, which is not empty, with one more part, the text of which is there already. */
  static with<Value extends object, Name extends string, Part>(
    value: Value, name: Name, part: JsonText<Part>,
  ): JsonText<Value & Record<Name, Part>> {
    return new JsonText(`${JSON.stringify(value).slice(0, -1)},${JSON.stringify(name)}:${part.text}}`)
  }
}

/** A JSON answer that comes as text bit by bit, as it is too large to hold at once. */
export class JsonStream<Value> {
  declare readonly value: Value

  constructor(readonly stream: Readable) {}
}

/** An answer as a value, or as the text of one. */
export type Answering<Value> = Value | JsonText<Value> | JsonStream<Value>
