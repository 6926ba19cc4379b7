import { defineCall, notFound } from '../http/problem'

/** Addresses that no call has: a problem document rather than a page. */
export default defineCall(async () => {
  throw notFound('There is no such call. The document at /api/openapi.json lists all of them.')
})
