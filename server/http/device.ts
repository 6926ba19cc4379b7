/** Browser and system of a session, as its member would say them. */

const browsers: [RegExp, string][] = [[/Edg\//, 'Edge'], [/Firefox\//, 'Firefox'], [/Chrom(e|ium)\//, 'Chrome'], [/Safari\//, 'Safari']]
const systems: [RegExp, string][] = [
  [/iPhone/, 'iPhone'],
  [/iPad/, 'iPad'],
  [/Android/, 'Android'],
  [/Mac OS X/, 'Mac'],
  [/Windows/, 'Windows'],
  [/Linux/, 'Linux'],
]

export function deviceOf(userAgent: string | undefined): string {
  const find = (table: [RegExp, string][]) => table.find(([pattern]) => pattern.test(userAgent ?? ''))?.[1]
  return [find(browsers) ?? 'Unknown browser', find(systems)].filter(Boolean).join(' on ')
}
