import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'

const examples = join(import.meta.dirname, '../core/openings/examples')
const sound = join(examples, 'r8-join-off-grid.json')

function openings(source: string | undefined, input = '') {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    ['--import', 'tsx', join(import.meta.dirname, 'openings.ts'), ...(source ? [source] : [])],
    { input, encoding: 'utf8' },
  )
  return { status, stdout, stderr: stderr.trim() }
}

describe('the command', () => {
  it('answers a file, or standard input', () => {
    const expected = JSON.parse(readFileSync(sound.replace('.json', '.expected.json'), 'utf8'))
    for (const { status, stdout, stderr } of [openings(sound), openings('-', readFileSync(sound, 'utf8'))]) {
      expect({ status, stderr }).toEqual({ status: 0, stderr: '' })
      expect(JSON.parse(stdout)).toEqual(expected)
    }
  })

  it.each([
    [
      'that does not fit, with its place',
      join(examples, 'window-backward.invalid.json'),
      '',
      /^\$\.hosts\[0\]\.plans\[0\]\.weekly\[0\]\.to: \S/,
    ],
    ['that is not JSON', '-', '{"version": 1', /^\$: \S/],
    ['that is not there', join(examples, 'nowhere.json'), '', /nowhere\.json/],
    ['that was not named', undefined, '', /^Usage: /],
  ])('refuses a case %s, and says nothing on standard output', (_, source, input, words) => {
    const { status, stdout, stderr } = openings(source, input)
    expect({ status, stdout }).toEqual({ status: 2, stdout: '' })
    expect(stderr).toMatch(words)
  })
})
