import { randomBytes } from 'node:crypto'
import { createRouter, defineEventHandler, getQuery, getRouterParam, type H3Event, type Router, sendRedirect, setResponseStatus } from 'h3'
import { addFaultPages } from '../shared/fault-pages'
import { html, page } from '../shared/html'
import { readMembers, sendPage } from '../shared/serve'
import type { Registered } from './interface'
import { Meeting } from './meeting'
import type { LanternStore, Room } from './store'

/** What people see of Lantern Rooms: consent, rooms with their waiting rooms, and a look inside. */

const service = 'Lantern Rooms'
const links: [string, string][] = [['/', 'Accounts and rooms'], ['/join', 'Join by number'], ['/faults', 'Faults']]

export function lanternPages(store: LanternStore, registered: Registered): Router {
  const router = createRouter()
  const meetings = new Map<string, Meeting>()

  router.get(
    '/',
    defineEventHandler(event =>
      sendPage(
        event,
        page(
          { service, title: 'Accounts and rooms', links },
          html` ${store.accounts.map(
              account =>
                html`<div class="card">
                  <strong>${account.name}</strong> <span class="quiet">${account.email}</span>
                  ${
                    store.roomsOf(account.id).length === 0
                      ? html`<p class="quiet">No rooms.</p>`
                      : html`<table>
                          <tr>
                            <th>Room</th>
                            <th>Number</th>
                            <th>When</th>
                            <th></th>
                          </tr>
                          ${store.roomsOf(account.id).map(
                            room =>
                              html`<tr>
                                <td>${room.title}</td>
                                <td>${room.number}</td>
                                <td>${room.startsAt.slice(0, 16).replace('T', ' ')} UTC</td>
                                <td><a href="/room/${room.hostKey}">as host</a> · <a href="/room/${room.joinKey}">as guest</a></td>
                              </tr>`,
                          )}
                        </table>`
                  }
                  <form method="post" action="/accounts/${account.id}/withdraw"><button class="plain">Revoke access</button></form>
                </div>`,
            )}
            <h2>API calls</h2>
            <table>
              <tr>
                <th>When</th>
                <th>Call</th>
                <th>Answer</th>
              </tr>
              ${[...store.calls]
                .reverse()
                .slice(0, 30)
                .map(
                  call =>
                    html`<tr>
                      <td>${call.at}</td>
                      <td>${call.call}</td>
                      <td>${call.status || 'lost'}</td>
                    </tr>`,
                )}
            </table>`,
        ),
      ),
    ),
  )

  router.post('/accounts/:id/withdraw', defineEventHandler((event) => {
    store.withdrawConsent(getRouterParam(event, 'id') ?? '')
    return sendRedirect(event, '/', 303)
  }))

  addFaultPages(router, store, { service, links })

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

  router.get('/room/:key', defineEventHandler((event) => {
    const found = store.roomByKey(getRouterParam(event, 'key') ?? '')
    if (!found) return refuse(event, 'This room does not exist or was deleted.')
    return sendPage(
      event,
      page(
        { service, title: found.room.title, script: roomScript },
        html` <p class="quiet">Room ${found.room.number} · ${found.role === 'host' ? 'you are the host' : 'the host lets people in'}</p>
          <form id="enter" class="card">
            <label><span>Your name</span><input name="name" required autofocus maxlength="60" /></label
            ><button>${found.role === 'host' ? 'Open the room' : 'Enter the waiting room'}</button>
          </form>
          <div id="meeting" hidden>
            <p id="state" role="status"></p>
            <div id="waiting"></div>
            <h2>In the room</h2>
            <ul id="people" class="lines"></ul>
            <h2>Chat</h2>
            <ul id="lines" class="lines"></ul>
            <form id="say">
              <label><span>Message to everyone</span><input name="text" maxlength="500" autocomplete="off" /></label
              ><button>Send</button>
            </form>
          </div>`,
      ),
    )
  }))

  router.get('/room/:key/stream', defineEventHandler((event) => {
    const found = store.roomByKey(getRouterParam(event, 'key') ?? '')
    const { name, id } = getQuery(event)
    if (!found) return refuse(event, 'This room does not exist or was deleted.')
    const { res } = event.node
    res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' })
    res.write(': open\n\n')
    meetingOf(found.room).arrive(String(id || randomBytes(8).toString('hex')), String(name || 'Guest').slice(0, 60), found.role, res)
    event._handled = true
  }))

  router.post(
    '/room/:key/let-in',
    defineEventHandler(async event => act(event, (meeting, { id, visitor }) => meeting.letIn(String(id), String(visitor)))),
  )
  router.post(
    '/room/:key/say',
    defineEventHandler(async event => act(event, (meeting, { id, text }) => meeting.say(String(id), String(text)))),
  )

  return router

  function meetingOf(room: Room): Meeting {
    let meeting = meetings.get(room.id)
    if (!meeting) {
      meeting = new Meeting(room.entry)
      meetings.set(room.id, meeting)
    }
    return meeting
  }

  async function act(event: H3Event, change: (meeting: Meeting, members: Record<string, unknown>) => boolean) {
    const found = store.roomByKey(getRouterParam(event, 'key') ?? '')
    const done = found ? change(meetingOf(found.room), await readMembers(event)) : false
    if (!done) setResponseStatus(event, 403)
    return { done }
  }

  function refuse(event: H3Event, message: string): string {
    setResponseStatus(event, 404)
    return sendPage(event, page({ service, title: 'Not possible', links }, html`<p>${message}</p>`))
  }
}

const roomScript = `
const id = crypto.randomUUID(), base = location.pathname
const show = (element, entries) => element.replaceChildren(...entries)
const item = (text) => Object.assign(document.createElement('li'), { textContent: text })
const post = (path, body) => fetch(base + path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ id, ...body }) })
document.getElementById('enter').addEventListener('submit', (event) => {
  event.preventDefault()
  const name = new FormData(event.target).get('name')
  event.target.hidden = true
  document.getElementById('meeting').hidden = false
  const source = new EventSource(base + '/stream?' + new URLSearchParams({ id, name }))
  source.onmessage = ({ data }) => {
    const { inside, people, waiting, lines } = JSON.parse(data)
    document.getElementById('state').textContent = inside ? 'You are in the room.' : 'You are in the waiting room. The host will let you in shortly.'
    document.getElementById('say').hidden = !inside
    show(document.getElementById('people'), people.map(one => item(one.name + (one.role === 'host' ? ', host' : '') + (one.you ? ' (you)' : ''))))
    show(document.getElementById('lines'), lines.map(one => item(one.from + ': ' + one.text)))
    show(document.getElementById('waiting'), waiting.map(one => {
      const row = Object.assign(document.createElement('p'), { textContent: one.name + ' is waiting. ' })
      const button = Object.assign(document.createElement('button'), { textContent: 'Let ' + one.name + ' in' })
      button.onclick = () => post('/let-in', { visitor: one.id })
      row.append(button)
      return row
    }))
  }
})
document.getElementById('say').addEventListener('submit', async (event) => {
  event.preventDefault()
  await post('/say', { text: new FormData(event.target).get('text') })
  event.target.reset()
})
`
