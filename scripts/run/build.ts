import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

/** Building the application, only when its sources changed since the last build. */

const SOURCES = ['app', 'core', 'server', 'public', 'nuxt.config.ts', 'package-lock.json']
const MARK = '.output/.sources'

export function isBuilt(): boolean {
  return existsSync('.output/server/index.mjs') && existsSync(MARK) && readFileSync(MARK, 'utf8') === sourcesHash()
}

/**
 * Rejects with the end of the build's own words when it fails. `workFolder` is where the build keeps what it generates:
 * another one than `.nuxt`, where something else reads that meanwhile.
 */
export async function build(workFolder = '.nuxt'): Promise<void> {
  // A build that fails must not leave the last one standing.
  rmSync('.output', { recursive: true, force: true })
  const hash = sourcesHash()
  await run('node_modules/.bin/nuxt', ['build'], { TEMPORIA_WORK_FOLDER: workFolder })
  writeFileSync(MARK, hash)
}

/** Runs a command to its end, or to that of this process, quietly; rejects with its last words when it fails. */
export function run(command: string, args: string[], environment: Record<string, string> = {}): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1', ...environment },
    })
    let words = ''
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (chunk: Buffer) => (words = (words + chunk.toString()).slice(-8000)))
    const end = () => child.kill()
    process.once('exit', end)
    child.on('error', reject)
    child.on('close', () => process.off('exit', end))
    child.on('close', code => (code === 0 ? resolve() : reject(new Error(`${command} ${args.join(' ')} failed:\n${words}`))))
  })
}

function sourcesHash(): string {
  const hash = createHash('sha256')
  for (const source of SOURCES) addPath(hash, source)
  return hash.digest('hex')
}

function addPath(hash: ReturnType<typeof createHash>, path: string): void {
  if (!existsSync(path)) return
  const entries = path.includes('.') && !path.includes('/') ? null : readEntries(path)
  if (entries === null) hash.update(path).update(readFileSync(path))
  else for (const entry of entries) addPath(hash, join(path, entry))
}

function readEntries(path: string): string[] | null {
  try {
    return readdirSync(path).filter(name => !name.endsWith('.test.ts')).sort()
  } catch {
    return null
  }
}
