import { defineCall } from '../../http/define'
import { notFound, param } from '../../http/problem'
import { problemAddress, problemAt, problems } from '../../http/problems'

/** What the address in a problem document's `type` means. */
export default defineCall('GET /problems/{code}', async (event) => {
  const code = problemAt(param(event, 'code'))
  if (!code) throw notFound()
  return { type: problemAddress(code), ...problems[code] }
})
