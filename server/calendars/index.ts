export { hostAddresses, type Published, readFeed, readFreeBusy, remakeAddresses } from './feed'
export { clientEntry, type EntryOutcome, hostEntry, sessionEntryText } from './entry'
