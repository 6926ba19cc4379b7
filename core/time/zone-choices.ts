import { formatUtcOffset, formatZone } from './format'
import { zoneOf } from './zone'

/** The zones of the platform as a list to choose from, in words that people type. */

export interface ZoneChoice {
  zone: string
  /** The city: "Kolkata". */
  name: string
  /** Its country in the reader's language, empty where the platform does not tell. */
  country: string
  /** "UTC+5:30" at the given instant. */
  offset: string
}

const LETTERS = Array.from({ length: 26 }, (_, index) => String.fromCharCode(65 + index))
let regions: Map<string, string> | null = null

/** The region code of each zone, from the platform's own table (Intl.Locale, CLDR); empty where it has none. */
function regionOfZone(): Map<string, string> {
  if (regions) return regions
  regions = new Map()
  const known = new Intl.DisplayNames('en', { type: 'region', fallback: 'none' })
  for (const code of LETTERS.flatMap(first => LETTERS.map(second => first + second))) {
    if (known.of(code) === undefined) continue
    for (const zone of zonesOfRegion(code)) if (!regions.has(zone)) regions.set(zone, code)
  }
  return regions
}

/** Older platforms have a property where newer ones have a method. */
function zonesOfRegion(code: string): readonly string[] {
  const locale: Intl.Locale & { timeZones?: readonly string[], getTimeZones?: () => readonly string[] | undefined } = new Intl.Locale(`und-${code}`)
  return locale.getTimeZones?.() ?? locale.timeZones ?? []
}

/** A country or territory by its code, in the reader's language. */
export function countryName(code: string, locale: string): string {
  return new Intl.DisplayNames(locale, { type: 'region' }).of(code) ?? code
}

/** All zones, in the order of what is written. */
export function listZones(locale: string, now: number): ZoneChoice[] {
  const codes = regionOfZone()
  return ['UTC', ...Intl.supportedValuesOf('timeZone')]
    .map(zone => zoneChoice(zone, codes.get(zone), locale, now))
    .sort((a, b) => a.name.localeCompare(b.name, locale))
}

/** One zone in words; without the code of its country, which takes the whole table to find, in fewer of them. */
export function zoneChoice(zone: string, code: string | undefined, locale: string, now: number): ZoneChoice {
  return { zone, name: formatZone(zone), country: code ? countryName(code, locale) : '', offset: formatUtcOffset(zoneOf(zone).offsetAt(now)) }
}

/** The zones that fit best what somebody typed come first: by its whole city or country, then by how these begin; else in their order. */
export function rankZones(choices: readonly ZoneChoice[], typed: string): ZoneChoice[] {
  const wanted = plain(typed).trim()
  if (!wanted) return [...choices]
  const rank = ({ name, country }: ZoneChoice) => {
    const [city, land] = [plain(name), plain(country)]
    return city === wanted || land === wanted ? 0 : city.startsWith(wanted) ? 1 : land.startsWith(wanted) ? 2 : 3
  }
  return choices.map(choice => ({ choice, rank: rank(choice) })).sort((a, b) => a.rank - b.rank).map(({ choice }) => choice)
}

/** Whether what somebody typed finds a zone: parts of its city, country, offset or IANA name, in any order. */
export function matchesZone(choice: ZoneChoice, typed: string): boolean {
  const text = plain(`${choice.name} ${choice.country} ${choice.offset} ${choice.zone.replaceAll('_', ' ')} ${choice.zone}`)
  return plain(typed).split(/\s+/).filter(Boolean).every(word => text.includes(word))
}

function plain(text: string): string {
  return text.normalize('NFD').replace(/\p{M}/gu, '').replaceAll('−', '-').toLowerCase()
}
