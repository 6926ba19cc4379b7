import { formatList } from '~~/core/time/format'

/** What the settings of the workspace say. */
export const texts = {
  workspace: 'Workspace',
  workspaceTemporia: 'Workspace · Temporia',
  loading: 'Loading…',
  name: 'Name',
  nameHint: 'Clients read it on your pages and in mails.',
  about: 'About',
  aboutHint: 'A sentence or two on the page that lists what can be booked.',
  address: 'Address',
  addressHint: (earlier: readonly string[]) => (earlier.length === 0 ? 'The one before goes on leading here if you change it.'
    : `${formatList(earlier.map(slug => `/${slug}`))} ${earlier.length === 1 ? 'leads' : 'lead'} here too.`),
  timeZone: 'Time zone',
  timeZoneHint: 'For new event types and people.',
  turns: 'Fair share',
  countsCancelled: 'A cancelled session counts as its host’s turn',
  turnsHint: 'Otherwise the turn is given back: rotation goes on as if the session had never been.',
  onlyOwners: 'Only an owner changes these.',
  saved: 'The workspace is saved.',
  enterAName: 'Enter a name',
} as const
