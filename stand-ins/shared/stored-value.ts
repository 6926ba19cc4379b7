import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'

/** How long a change may wait to be written together with those that follow it. Milliseconds. */
const TOGETHER_MS = 100

/** A value stored in one JSON file, written whole and shortly after each change, so that a kill leaves an old one or the new one. */
export class StoredValue<Value> {
  value: Value
  private timer: NodeJS.Timeout | null = null

  constructor(private readonly file: string, preset: Value) {
    mkdirSync(dirname(file), { recursive: true })
    this.value = preset
    try {
      this.value = { ...preset, ...JSON.parse(readFileSync(file, 'utf8')) }
    } catch {
      this.write()
    }
    process.on('exit', () => this.timer && this.write())
  }

  save(): void {
    this.timer ??= setTimeout(() => this.write(), TOGETHER_MS)
  }

  private write(): void {
    if (this.timer) clearTimeout(this.timer)
    this.timer = null
    writeFileSync(`${this.file}.new`, JSON.stringify(this.value))
    renameSync(`${this.file}.new`, this.file)
  }
}
