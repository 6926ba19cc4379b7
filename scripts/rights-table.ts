import { memberRoles } from '../core/account/roles'
import { hasRight, hoursReach, rights, type Right, sessionReach } from '../core/account/rights'
import { callTable } from '../server/http/calls'
import type { Subject } from '../server/http/calls/call'

/** Who may make which call, as Markdown for the documentation, from the rows that the calls are checked by. */

const rightWords: Record<Right, string> = {
  seeSessions: 'see sessions',
  changeSessions: 'approve, cancel, hand over and send again',
  seeEventTypes: 'see event types and shared questions',
  changeEventTypes: 'change event types, shared questions, groups and shared hours',
  changeMessages: 'change messages, and add some',
  seeHours: 'see and change hours',
  connectAccounts: 'connect calendars and video accounts',
  connectWorkspace: 'connect the workspace’s video account, invite its users and ask hosts to connect',
  connectPayments: 'connect the account that clients pay to',
  seePeople: 'see members, hosts and the workspace’s settings',
  changePeople: 'invite, remove and give roles',
  seeRotation: 'see shares and how sessions came to their hosts',
  tryRotation: 'try what if',
  changeWorkspace: 'change or delete the workspace',
}

const own = (what: string) => `their own ${what} only`
const from = (steps: readonly string[], needs: string) => steps.slice(steps.indexOf(needs)).map(step => `\`${step}\``).join(' or ')

function hostWords(subject: Subject | undefined): string {
  if (!subject) return 'yes'
  switch (subject.kind) {
    case 'host': return own('page')
    case 'account': return own('account')
    case 'member': return 'themselves only'
    case 'hours': return `their own; of others with hours ${from(hoursReach, subject.needs)}`
    default: return `their own; of others with sessions ${from(sessionReach, subject.needs)}`
  }
}

const table = (rows: string[][]) => {
  const [head = [], ...others] = rows
  return [head, head.map(() => '---'), ...others].map(cells => `| ${cells.join(' | ')} |`).join('\n')
}

export function rightsTable(): string {
  const ofRoles = table([
    ['right', 'what', ...memberRoles],
    ...(Object.keys(rights) as Right[]).map(right => [
      `\`${right}\``, rightWords[right], ...memberRoles.map(role => (hasRight(role, right) ? 'yes' : 'no')),
    ]),
  ])
  const ofCalls = table([
    ['call', 'right', 'a host'],
    ...Object.entries(callTable).flatMap(([name, { right, subject }]) =>
      (right ? [[`\`${name}\``, `\`${right}\``, hasRight('host', right) ? hostWords(subject) : 'no']] : [])),
  ])
  return `${ofRoles}\n\n## Calls\n\n${ofCalls}`
}
