export { hostAddresses, type Published, readFeed, readFreeBusy, remakeAddresses, setFreeBusy } from './feed'
export { clientEntry, type EntryOutcome, hostEntry, sessionEntryText } from './entry'
