/** Values as PostgreSQL takes them. */

/** PostgreSQL holds no NUL and no half of a surrogate pair. */
export function storable(text: string): string {
  return text.replaceAll('\u0000', '').toWellFormed()
}

/** Starts and ends one after another, in seconds, as PostgreSQL writes ranges of them. */
export function multirange(times: readonly number[]): string {
  const ranges: string[] = []
  for (let at = 0; at + 1 < times.length; at += 2) ranges.push(`[${iso(times[at])},${iso(times[at + 1])})`)
  return `{${ranges.join(',')}}`
}

/** Years beyond 9999 are written otherwise by either side, and are nobody's appointments. */
function iso(seconds = 0): string {
  return new Date(Math.max(-62_135_596_800, Math.min(seconds, 253_402_300_799)) * 1000).toISOString()
}
