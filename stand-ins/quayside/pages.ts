import { createRouter, defineEventHandler, getRouterParam, type Router, sendRedirect, setResponseStatus } from 'h3'
import { z } from 'zod'
import { addCallPage } from '../shared/calls'
import { addFaultPages } from '../shared/fault-pages'
import { faultKinds } from '../shared/faults'
import { callTable, html, type Html, page, roomTable } from '../shared/html'
import { addRoomPages, refusePage } from '../shared/room-pages'
import { readMembers, sendPage } from '../shared/serve'
import type { Account, QuaysideStore, User } from './store'

/** What people see of Quayside Video: invitations, rooms with their lobbies, and a look inside. */

const service = 'Quayside Video'
const links: [string, string][] = [['/', 'Accounts and meetings'], ['/faults', 'Faults']]

export const accountSchema = z.object({
  number: z.string().min(1),
  client: z.string().min(1),
  secret: z.string().min(1),
  name: z.string().min(1),
  users: z.array(z.object({ name: z.string(), address: z.string() })).min(1),
})

export function quaysidePages(store: QuaysideStore): Router {
  const router = createRouter()

  router.get('/', defineEventHandler(event => sendPage(event, page(
    { service, title: 'Accounts and meetings', links },
    html`${store.accounts.map(showAccount)} ${callTable(store.log.calls)}`,
  ))))

  addCallPage(router, store.log)

  /** Creates an account, or puts another in the place of the one that has its number. */
  router.post('/accounts', defineEventHandler(async (event) => {
    const account = accountSchema.safeParse(await readMembers(event))
    if (!account.success) {
      setResponseStatus(event, 422)
      return { problem: 'invalid', detail: z.prettifyError(account.error) }
    }
    store.addAccount(account.data)
    return { number: account.data.number }
  }))

  router.post('/accounts/:number', defineEventHandler(async (event) => {
    const account = store.account(getRouterParam(event, 'number') ?? '')
    const { do: what, meetings, user: id } = await readMembers(event)
    if (!account) return refusePage(event, { service, links }, 'There is no such account.')
    const user = account.users.find(candidate => candidate.id === id)
    if (what === 'quota' && /^\d{1,6}$/.test(String(meetings))) store.changeAccount(account, { quota: Number(meetings) })
    if (what === 'secret') store.changeAccount(account, { secret: `changed-${account.secret}` })
    if (what === 'expire' && user?.state === 'invited') store.changeUser(user, { invitedUntil: 1 })
    return sendRedirect(event, '/', 303)
  }))

  router.get('/invitations/:key', defineEventHandler((event) => {
    const user = store.invited(getRouterParam(event, 'key') ?? '')
    if (!user) return refusePage(event, { service, links }, 'This invitation was withdrawn.')
    return sendPage(event, page({ service, title: 'You are invited', links }, html`<form class="card" method="post">
      <p>Meetings may be held in your name, ${user.name}, once you accept.</p><button>Accept</button></form>`))
  }))

  router.post('/invitations/:key', defineEventHandler((event) => {
    const user = store.accept(getRouterParam(event, 'key') ?? '', Math.floor(Date.now() / 1000))
    if (!user) return refusePage(event, { service, links }, 'This invitation has ended.')
    return sendPage(event, page({ service, title: 'Welcome', links }, html`<p>You are a user of ${service} now, ${user.name}.</p>`))
  }))

  addFaultPages(router, store.log, { service, links }, faultKinds)

  addRoomPages(router, { service, links }, (key) => {
    const found = store.meetingByKey(key)
    return found && {
      id: found.meeting.key, title: found.meeting.topic, name: found.meeting.dial, entry: found.meeting.lobby ? 'host' : 'open', role: found.role,
    }
  })

  return router

  function showAccount(account: Account): Html {
    const nameOf = (id: string) => account.users.find(user => user.id === id)?.name ?? ''
    return html`<div class="card">
      <strong>${account.name}</strong>
      <p class="quiet">Account ${account.number} · client ${account.client} · secret ${account.secret}</p>
      <table>
        <tr><th>User</th><th>Address</th><th>State</th><th></th></tr>
        ${account.users.map((user, index) => html`<tr><td>${user.name}</td><td>${user.address}</td><td>${stateOf(user, index === 0)}</td><td>
          ${user.state === 'invited' && html`<form method="post" action="/accounts/${account.number}"><input type="hidden" name="user" value="${user.id}" />
            <button class="plain" name="do" value="expire">End the invitation</button></form>`}</td></tr>`)}
      </table>
      <p></p>
      ${roomTable(store.meetingsOf(account.number).map(meeting => ({
        title: meeting.topic,
        name: meeting.dial,
        startsAt: new Date(meeting.begin * 1000).toISOString(),
        endsAt: new Date((meeting.begin + meeting.minutes * 60) * 1000).toISOString(),
        hosts: [nameOf(meeting.organizer)],
        attendees: meeting.participants.filter(({ part }) => part === 'guest').map(({ name }) => name),
        hostPath: `/room/${meeting.hostKey}`,
        joinPath: `/room/${meeting.guestKey}`,
      })))}
      <p></p>
      <form method="post" action="/accounts/${account.number}" class="row">
        <label>Meetings allowed <input name="meetings" inputmode="numeric" value="${account.quota}" /></label>
        <button class="plain" name="do" value="quota">Set</button>
        <button class="plain" name="do" value="secret">Change the secret</button>
      </form>
    </div>`
  }
}

function stateOf(user: User, isMain: boolean): string {
  if (user.state === 'active') return isMain ? 'active, main user' : 'active'
  return user.invitedUntil * 1000 < Date.now() ? 'invitation has ended' : `invited until ${new Date(user.invitedUntil * 1000).toISOString().slice(0, 10)}`
}
