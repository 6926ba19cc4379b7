export { clientEntry, type EntryOutcome, hostEntry } from './entry'
