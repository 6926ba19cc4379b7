/** A JSON answer that is text already, typed as the value that it stands for. */
export class JsonText<Value> {
  /** Only for the type: the value is not here. */
  declare readonly value: Value

  constructor(readonly text: string) {}

  static of<Value>(value: Value): JsonText<Value> {
    return new JsonText(JSON.stringify(value))
  }
}
