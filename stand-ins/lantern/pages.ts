import { createRouter, defineEventHandler, getQuery, getRouterParam, type H3Event, type Router, sendRedirect } from 'h3'
import { addCallPage } from '../shared/calls'
import { addFaultPages } from '../shared/fault-pages'
import { faultKinds } from '../shared/faults'
import { callTable, html, page, roomTable } from '../shared/html'
import { addRoomPages, refusePage } from '../shared/room-pages'
import { readMembers, sendPage } from '../shared/serve'
import type { Registered } from './interface'
import type { LanternStore } from './store'

/** What people see of Lantern Rooms: consent, rooms with their waiting rooms, and a look inside. */

const service = 'Lantern Rooms'
const links: [string, string][] = [['/', 'Accounts and rooms'], ['/join', 'Join by number'], ['/faults', 'Faults']]

export function lanternPages(store: LanternStore, registered: Registered): Router {
  const router = createRouter()

  router.get(
    '/',
    defineEventHandler(event =>
      sendPage(
        event,
        page(
          { service, title: 'Accounts and rooms', links },
          html` ${store.accounts.map(account => html`<div class="card">
              <strong>${account.name}</strong> <span class="quiet">${account.email}</span>
              ${roomTable(store.roomsOf(account.id).map(room => ({
                title: room.title, name: room.number, startsAt: room.startsAt, endsAt: room.endsAt,
                hosts: room.hosts.map(({ name }) => name), attendees: room.attendees.map(({ name }) => name),
                hostPath: `/room/${room.hostKey}`, joinPath: `/room/${room.joinKey}`,
              })))}
              <form method="post" action="/accounts/${account.id}" class="row">
                <button class="plain" name="do" value="withdraw">Revoke access</button>
                <button class="plain" name="do" value="${account.approval === 'needed' ? 'approve' : 'needApproval'}">${account.approval === 'needed' ? 'Approve Temporia, as the owner' : 'Require the owner’s approval'}</button>
                <label>Rooms allowed <input name="rooms" inputmode="numeric" value="${account.quota}" /></label>
                <button class="plain" name="do" value="quota">Set</button>
              </form>
            </div>`)}
            ${callTable(store.log.calls)}`,
        ),
      ),
    ),
  )

  router.post('/accounts/:id', defineEventHandler(async (event) => {
    const account = store.account(decodeURIComponent(getRouterParam(event, 'id') ?? ''))
    const { do: what, rooms } = await readMembers(event)
    if (!account) return refuse(event, 'There is no such account.')
    if (what === 'withdraw') store.withdrawConsent(account.id)
    if (what === 'needApproval') store.changeAccount(account, { approval: 'needed' })
    if (what === 'approve') store.changeAccount(account, { approval: 'given' })
    if (what === 'quota' && /^\d{1,6}$/.test(String(rooms))) store.changeAccount(account, { quota: Number(rooms) })
    return sendRedirect(event, '/', 303)
  }))

  addFaultPages(router, store.log, { service, links }, faultKinds)
  addCallPage(router, store.log)

  router.get('/consent', defineEventHandler((event) => {
    const { client_id: clientId, redirect_uri: redirectUri, state } = getQuery(event)
    if (clientId !== registered.clientId) return refuse(event, 'This application is not registered with Lantern Rooms.')
    return sendPage(
      event,
      page(
        { service, title: 'Let Temporia create rooms for you?', links },
        html`<div class="card">
          <p>Temporia would like to create, change and delete rooms under your account. You can revoke this at any time.</p>
          <form method="post" action="/consent">
            <input type="hidden" name="redirect_uri" value="${String(redirectUri)}" /><input
              type="hidden"
              name="state"
              value="${String(state)}"
            />
            <label
              ><span>Your account</span
              ><select name="account">
                ${store.accounts.map(account => html`<option value="${account.id}">${account.name} (${account.email})</option>`)}
              </select></label
            >
            <button name="answer" value="allow">Allow</button> <button class="plain" name="answer" value="refuse">Decline</button>
          </form>
        </div>`,
      ),
    )
  }))

  router.post('/consent', defineEventHandler(async (event) => {
    const { redirect_uri: redirectUri, state, account, answer } = await readMembers(event)
    if (!store.accounts.some(candidate => candidate.id === account)) return refuse(event, 'There is no such account.')
    const back = new URL(String(redirectUri))
    back.searchParams.set('state', String(state))
    if (answer === 'allow')
      back.searchParams.set('code', store.giveCode(String(account), String(redirectUri), Math.floor(Date.now() / 1000)))
    return sendRedirect(event, back.href, 303)
  }))

  router.get('/join', defineEventHandler(event => sendPage(event, page({ service, title: 'Join by number', links }, html`<div class="card">
<form method="post" action="/join"><label><span>Number</span><input name="number" inputmode="numeric" required></label>
<label><span>Passcode</span><input name="passcode" inputmode="numeric" required></label><button>Go to the room</button></form></div>`))))

  router.post('/join', defineEventHandler(async (event) => {
    const { number, passcode } = await readMembers(event)
    const room = store.roomByNumber(String(number), String(passcode))
    return room ? sendRedirect(event, `/room/${room.joinKey}`, 303) : refuse(event, 'No room has this number and passcode.')
  }))

  addRoomPages(router, { service, links }, (key) => {
    const found = store.roomByKey(key)
    return found && { id: found.room.id, title: found.room.title, name: found.room.number, entry: found.room.entry, role: found.role }
  })

  return router

  function refuse(event: H3Event, message: string): string {
    return refusePage(event, { service, links }, message)
  }
}
