import { audit } from '../server/audit'
import { closeContext, makeContext } from '../server/start'

/**
 * Looks for broken promises in an installation: `npm run -s audit`, with its settings in the environment. Reads its database
 * and, through its services, their rooms; changes nothing. Exit status 1 where something is broken.
 */

const context = await makeContext(process.env)
try {
  const { broken, notes } = await audit(context)
  for (const { name, workspaceId, subject, detail } of broken) process.stdout.write(`${name}: ${subject} (${detail}), workspace ${workspaceId}\n`)
  for (const note of notes) process.stdout.write(`note: ${note}\n`)
  process.stdout.write(broken.length === 0 ? 'No broken promises\n' : `${broken.length} broken promises\n`)
  process.exitCode = broken.length === 0 ? 0 : 1
} finally {
  await closeContext(context)
}
