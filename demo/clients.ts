/** Made-up clients and what they answer. All addresses end in .example. */

export interface DemoClient {
  name: string
  email: string
  phone: string
  timeZone: string
  locale: string
}

const client = (name: string, email: string, phone: string, timeZone: string, locale = 'en-GB'): DemoClient => ({
  name,
  email,
  phone,
  timeZone,
  locale,
})

export const clients: DemoClient[] = [
  client('Marta Quintela', 'marta.quintela@valeseco.example', '+351210000101', 'Europe/Lisbon', 'pt-PT'),
  client('Parish of Vale Seco', 'archive@valeseco.example', '+351210000102', 'Europe/Lisbon', 'pt-PT'),
  client('Lourenço Amado', 'l.amado@amado.example', '+351210000103', 'Europe/Lisbon', 'pt-PT'),
  client('Brook Hall Library', 'reading.room@brookhall.example', '+441632960104', 'Europe/London'),
  client('Alder Row Library', 'local.history@alderrow.example', '+15065550105', 'America/Halifax', 'en-CA'),
  client('The Ferreras', 'letters@ferrera.example', '+34910000106', 'Europe/Madrid', 'es'),
  client('Old Mint Theatre', 'posters@oldmint.example', '+61255500107', 'Australia/Adelaide', 'en-AU'),
  client('Vila Chã Archive', 'arquivo@vilacha.example', '+351220000108', 'Europe/Lisbon', 'pt-PT'),
  client('Dr Nandini Bhowmik', 'n.bhowmik@lakeview.example', '+913300000109', 'Asia/Kolkata', 'en-IN'),
  client('Harbour Chapel', 'vestry@harbourchapel.example', '+19025550110', 'America/Halifax', 'en-CA'),
  client('Ingrid Solbakken', 'ingrid@solbakken.example', '+4721000111', 'Europe/Oslo', 'nb'),
  client('Tallis & Daughters', 'workshop@tallis.example', '+441632960112', 'Europe/London'),
]

const stories: [material: string, happened: string][] = [
  ['parchment', 'A psalter fell into the font. The spine is loose and the first gathering is wet.'],
  ['paper', 'Two ledgers stood in a cellar for years; there is grey mould along the edges.'],
  ['leather', 'The binding is crumbling to red powder wherever it is touched.'],
  ['paper', 'Family letters, tape all over the folds, some of it gone brown.'],
  ['paper', 'Theatre posters from 1911, rolled too tightly to open without tearing.'],
  ['unsure', 'A map, stuck to the glass of its frame.'],
  ['paper', 'A roof leak over the reading room; forty volumes are damp at the head.'],
  ['parchment', 'The charter has cockled since the heating was changed.'],
]

const objects: [object: string, size: string][] = [
  ['Two parish ledgers with mould', 'bag'],
  ['A framed charter', 'car'],
  ['A box of glass plates and letters', 'bag'],
  ['Six rolled posters', 'car'],
]

const insurers = ['Mutual of the Estuary', 'Northlight Insurance', 'Parish Cover']

/** Answers of the n-th booking of an event type. */
export function answersFor(slug: string, n: number): Record<string, unknown> {
  const pick = <Entry>(entries: readonly Entry[]): Entry => {
    const entry = entries[n % entries.length]
    if (entry === undefined) throw new RangeError('Nothing to pick from')
    return entry
  }
  if (slug === 'damage-triage') {
    const [material, happened] = pick(stories)
    return { material, happened, photographs: n % 3 !== 0 }
  }
  if (slug === 'studio-assessment') {
    const [object, size] = pick(objects)
    return { object, size, ...(n % 2 ? { insured: true } : { prepare: 'It is heavy: two people carry it.' }) }
  }
  if (slug === 'flood-recovery')
    return { heard: pick(['library', 'insurer', 'friend']), concerned: pick([['books'], ['books', 'papers'], ['photographs']]) }
  if (slug === 'bench-interview') return { years: 2 + (n % 9) }
  if (slug === 'collection-review') return { metres: 20 + 15 * (n % 7) }
  return { insurer: pick(insurers), ...(n % 2 ? { claim: `C-${1000 + n * 37}` } : {}) }
}
