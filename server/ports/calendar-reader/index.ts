export { type ReadObject, type ReadRequest, spanOf } from './read'
export { type CalendarReader, directReader, threadReader } from './reader'
