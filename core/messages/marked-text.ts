/**
 * The text of a message before it becomes plain text or HTML: what fields gave is marked as such, and blocks are named where they
 * stand. Marks begin with U+0000, which no text from people can hold.
 */

export const blockNames = ['details', 'manage'] as const
export type BlockName = (typeof blockNames)[number]

/** What a template prints for each block. */
export const BLOCKS: Record<BlockName, string> = { details: '\0d', manage: '\0m' }

const byMark = new Map(blockNames.map(name => [BLOCKS[name], name]))

export type Segment = { kind: 'words', text: string } | { kind: 'value', text: string } | { kind: 'block', name: BlockName }

/** Marks what a field has given; blocks within it stay blocks. */
export function markValue(value: string): string {
  return value.split(/(\0[dm])/).map(part => (part === '' || byMark.has(part) ? part : `\0(${part}\0)`)).join('')
}

/** The parts of a marked text, in their order. */
export function segmentsOf(marked: string): Segment[] {
  const segments: Segment[] = []
  let kind: 'words' | 'value' = 'words'
  for (const part of marked.split(/(\0[dm()])/)) {
    const name = byMark.get(part)
    if (name) segments.push({ kind: 'block', name })
    else if (part === '\0(') kind = 'value'
    else if (part === '\0)') kind = 'words'
    else if (part !== '') segments.push({ kind, text: part.replaceAll('\0', '') })
  }
  return segments
}
