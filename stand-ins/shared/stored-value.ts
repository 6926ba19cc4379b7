import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'

/** A value stored in one JSON file, written whole at each change so that a kill leaves the old or the new one. */
export class StoredValue<Value> {
  value: Value

  constructor(private readonly file: string, preset: Value) {
    mkdirSync(dirname(file), { recursive: true })
    this.value = preset
    try {
      this.value = { ...preset, ...JSON.parse(readFileSync(file, 'utf8')) }
    } catch {
      this.save()
    }
  }

  save(): void {
    writeFileSync(`${this.file}.new`, JSON.stringify(this.value))
    renameSync(`${this.file}.new`, this.file)
  }
}
