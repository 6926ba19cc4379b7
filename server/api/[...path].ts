import { answering } from '../http/define'
import { notFound } from '../http/problem'

/** Addresses that no call has: a problem document rather than a page. */
export default answering(async () => {
  throw notFound('noSuchCall')
})
