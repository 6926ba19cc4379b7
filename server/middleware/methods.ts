import { setResponseHeader } from 'h3'
import { groupBy } from '../../core/group-by'
import { callTable } from '../http/calls'
import { answerProblem, problem } from '../http/problem'

/** Calls by the pattern of their address; what an address does not take is a problem document like any other. */
const known = [...groupBy(Object.keys(callTable), call => call.split(' ')[1] ?? '')].map(([path, calls]) => ({
  pattern: new RegExp(`^${path.replaceAll('.', '\\.').replace(/\{\w+\}/g, '[^/]+')}/?$`),
  methods: calls.map(call => call.split(' ')[0] ?? ''),
}))

export default defineEventHandler((event) => {
  const [path = ''] = event.path.split('?')
  if (!path.startsWith('/api/')) return
  const matching = known.filter(({ pattern }) => pattern.test(path)).flatMap(({ methods }) => methods)
  const method = event.method === 'HEAD' ? 'GET' : event.method
  if (matching.length === 0 || matching.includes(method)) return
  setResponseHeader(event, 'allow', [...new Set(matching)].join(', '))
  return answerProblem(event, problem('methodNotAllowed', 'methodNotAllowed', { allowed: [...new Set(matching)] }))
})
