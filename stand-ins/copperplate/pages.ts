import { randomUUID } from 'node:crypto'
import { createRouter, defineEventHandler, getQuery, getRouterParam, type H3Event, readRawBody, type Router, sendRedirect, setResponseStatus } from 'h3'
import { addFaultPages } from '../shared/fault-pages'
import { html, page } from '../shared/html'
import { readMembers, sendPage } from '../shared/serve'
import { describe, entryText, splitCalendar } from './objects'
import { type CopperplateStore, type StoredAccount, type StoredCalendar, type StoredObject, type Switch, switches, tokenSeconds } from './store'

/** What people see of Copperplate Calendar: consent, and their entries to add, move and delete by hand. */

const service = 'Copperplate Calendar'
const links: [string, string][] = [['/', 'Accounts'], ['/calls', 'Calls'], ['/faults', 'Faults'], ['/switches', 'Behaviour']]

export interface Registered {
  clientId: string
  clientSecret: string
}

interface FoundCalendar {
  account: StoredAccount
  calendar: StoredCalendar
  /** Its page. */
  back: string
}

export function copperplatePages(store: CopperplateStore, registered: Registered): Router {
  const router = createRouter()

  router.get('/', defineEventHandler(event => sendPage(event, page({ service, title: 'Accounts', links }, html`${store.accounts.map(account => html`<div class="card">
    <strong>${account.name}</strong> <span class="quiet">${account.email} · user ${account.user} · ${account.timeZone}</span>
    <ul class="lines">${account.calendars.map(calendar => html`<li><a href="/accounts/${account.user}/${calendar.slug}">${calendar.name}</a>
      <span class="quiet">${Object.keys(calendar.objects).length} entries${calendar.readOnly && ', read only'}</span></li>`)}</ul>
    <form method="post" action="/accounts/${account.user}/withdraw"><button class="plain">Revoke access</button></form></div>`)}`))))

  router.post('/accounts', defineEventHandler(async (event) => {
    const { user, password, name, email, timeZone, calendars } = await readMembers(event)
    store.addAccount({
      user: String(user), password: String(password), name: String(name ?? user), email: String(email), timeZone: String(timeZone ?? 'UTC'),
    }, Array.isArray(calendars) ? calendars.map(String) : ['Calendar'])
    return sendRedirect(event, '/', 303)
  }))

  router.post('/accounts/:user/withdraw', defineEventHandler((event) => {
    store.withdrawConsent(getRouterParam(event, 'user') ?? '')
    return sendRedirect(event, '/', 303)
  }))

  router.get('/accounts/:user/:calendar', withCalendar((event, { account, calendar }) => sendPage(event, page({ service, title: `${calendar.name}, ${account.name}`, links }, html`
    <table><tr><th>Entry</th><th>From and to</th><th></th></tr>${Object.values(calendar.objects)
      .map(object => ({ object, entry: describe(object.text) }))
      .sort((a, b) => (a.entry.start < b.entry.start ? -1 : 1))
      .map(({ object, entry }) => html`<tr><td>${entry.title || '(no title)'}<div class="quiet">${[entry.rule, ...entry.notes].filter(Boolean).join(' · ')}</div></td>
        <td class="when">${readable(entry.start)}<br />${readable(entry.end)}</td>
        <td>${!entry.rule && html`<form class="row" method="post" action="/accounts/${account.user}/${calendar.slug}/move">
          <input type="hidden" name="object" value="${object.name}" />
          <input type="datetime-local" name="start" aria-label="New start of ${entry.title}" required />
          <input type="datetime-local" name="end" aria-label="New end of ${entry.title}" required />
          <button class="plain">Move</button></form>`}
        <form method="post" action="/accounts/${account.user}/${calendar.slug}/delete"><input type="hidden" name="object" value="${object.name}" />
          <button class="plain" aria-label="Delete ${entry.title}">Delete</button></form></td></tr>`)}</table>
    <h2>Add an entry</h2>
    <form method="post" action="/accounts/${account.user}/${calendar.slug}/add" class="card">
      <label><span>Title</span><input name="title" required /></label>
      <label><span>Starts (${account.timeZone})</span><input type="datetime-local" name="start" required /></label>
      <label><span>Ends</span><input type="datetime-local" name="end" required /></label>
      <label><span>Repeats (RRULE, optional)</span><input name="rule" /></label>
      <button>Add</button></form>`))))

  router.post('/accounts/:user/:calendar/add', withCalendar(async (event, { account, calendar, back }) => {
    const { title, start, end, rule } = await readMembers(event)
    const uid = randomUUID()
    store.put(calendar, `${uid}.ics`, entryText({
      uid,
      title: String(title ?? ''),
      lines: [...spanLines(account, String(start), String(end)), ...(rule ? [`RRULE:${String(rule)}`] : [])],
    }))
    return sendRedirect(event, back, 303)
  }))

  router.post('/accounts/:user/:calendar/import', withCalendar(async (event, { calendar, back }) => {
    for (const [uid, text] of splitCalendar((await readRawBody(event)) ?? '')) store.put(calendar, `${encodeURIComponent(uid)}.ics`, text)
    return sendRedirect(event, back, 303)
  }))

  router.post('/accounts/:user/:calendar/move', withObject((event, { account, calendar, object, members, back }) => {
    const [start, end] = spanLines(account, String(members['start']), String(members['end']))
    const moved = object.text.replace(/^DTSTART[^\r\n]*(?:\r?\n[ \t][^\r\n]*)*/m, start ?? '').replace(/^(?:DTEND|DURATION)[^\r\n]*(?:\r?\n[ \t][^\r\n]*)*/m, end ?? '')
    store.put(calendar, object.name, moved)
    return sendRedirect(event, back, 303)
  }))

  router.post('/accounts/:user/:calendar/delete', withObject((event, { calendar, object, back }) => {
    store.delete(calendar, object.name)
    return sendRedirect(event, back, 303)
  }))

  router.get('/calls', defineEventHandler(event => sendPage(event, page({ service, title: 'Calls', links }, html`<table>
    <tr><th>When</th><th>Call</th><th>Answer</th></tr>${store.calls.slice(-60).reverse().map(call => html`<tr><td>${call.at}</td><td>${call.call}</td>
    <td>${call.status || 'lost'}</td></tr>`)}</table>`))))
  router.get('/calls.json', defineEventHandler(() => store.calls))

  addFaultPages(router, store, { service, links })
  router.get('/switches', defineEventHandler(event => sendPage(event, page({ service, title: 'Behaviour', links }, html`
    <form method="post" action="/switches" class="card">${Object.entries(switches).map(([key, words]) => html`<label><input type="checkbox" name="${key}"
      ${store.on.has(asSwitch(key)) && 'checked'} /> ${words}</label>`)}<button>Apply</button></form>`))))
  router.post('/switches', defineEventHandler(async (event) => {
    const members = await readMembers(event)
    store.on.clear()
    for (const key of Object.keys(switches)) if (members[key]) store.on.add(asSwitch(key))
    return sendRedirect(event, '/switches', 303)
  }))

  addConsent(router, store, registered)
  return router

  function withCalendar(handler: (event: H3Event, found: FoundCalendar) => unknown) {
    return defineEventHandler((event) => {
      const account = store.account(getRouterParam(event, 'user') ?? '')
      const calendar = account?.calendars.find(({ slug }) => slug === getRouterParam(event, 'calendar'))
      if (account && calendar) return handler(event, { account, calendar, back: `/accounts/${account.user}/${calendar.slug}` })
      setResponseStatus(event, 404)
      return sendPage(event, page({ service, title: 'Not found', links }, html`<p>There is no such calendar.</p>`))
    })
  }

  function withObject(
    handler: (event: H3Event, found: FoundCalendar & { object: StoredObject, members: Record<string, unknown> }) => unknown,
  ) {
    return withCalendar(async (event, found) => {
      const members = await readMembers(event)
      const object = found.calendar.objects[String(members['object'])]
      return object ? handler(event, { ...found, object, members }) : sendRedirect(event, found.back, 303)
    })
  }
}

function asSwitch(key: string): Switch {
  const found = (Object.keys(switches) as Switch[]).find(candidate => candidate === key)
  if (!found) throw new Error(`There is no switch called ${key}`)
  return found
}

function spanLines({ timeZone }: StoredAccount, start: string, end: string): string[] {
  const local = (text: string) => text.replaceAll(/[-:]/g, '').padEnd(15, '0')
  return [`DTSTART;TZID=${timeZone}:${local(start)}`, `DTEND;TZID=${timeZone}:${local(end)}`]
}

/** OAuth 2.0: the authorization code grant with PKCE, and refresh tokens that work once. */
function addConsent(router: Router, store: CopperplateStore, registered: Registered): void {
  router.get('/consent', defineEventHandler((event) => {
    const query = getQuery(event)
    if (query['client_id'] !== registered.clientId || query['code_challenge_method'] !== 'S256')
      return sendPage(event, page({ service, title: 'Unknown application', links }, html`<p>This application is not registered with Copperplate Calendar.</p>`))
    return sendPage(event, page({ service, title: 'Let Temporia read and write your calendars?', links }, html`<form method="post" action="/consent" class="card">
      ${['redirect_uri', 'state', 'code_challenge'].map(name => html`<input type="hidden" name="${name}" value="${String(query[name] ?? '')}" />`)}
      <label><span>Your account</span><select name="user">${store.accounts.map(account => html`<option value="${account.user}">${account.name} (${account.email})</option>`)}</select></label>
      <button name="answer" value="allow">Allow</button> <button class="plain" name="answer" value="refuse">Decline</button></form>`))
  }))

  router.post('/consent', defineEventHandler(async (event) => {
    const members = await readMembers(event)
    const back = new URL(String(members['redirect_uri']))
    back.searchParams.set('state', String(members['state']))
    if (members['answer'] === 'allow')
      back.searchParams.set('code', store.giveCode(String(members['user']), String(members['redirect_uri']), String(members['code_challenge']), seconds()))
    else back.searchParams.set('error', 'access_denied')
    return sendRedirect(event, back.href, 303)
  }))

  router.post('/token', defineEventHandler(async (event) => {
    const members = await readMembers(event)
    const refuse = (error: string) => {
      setResponseStatus(event, error === 'invalid_client' ? 401 : 400)
      return { error }
    }
    if (members['client_id'] !== registered.clientId || members['client_secret'] !== registered.clientSecret) return refuse('invalid_client')
    const grant = members['grant_type'] === 'authorization_code'
      ? store.takeCode(String(members['code']), String(members['redirect_uri']), String(members['code_verifier']), seconds())
      : members['grant_type'] === 'refresh_token' ? store.renew(String(members['refresh_token']), seconds()) : null
    if (!grant) return refuse('invalid_grant')
    return { access_token: grant.accessToken, refresh_token: grant.refreshToken, token_type: 'Bearer', expires_in: tokenSeconds }
  }))
}

function seconds(): number {
  return Math.floor(Date.now() / 1000)
}

/** `2026-11-03 09:30 UTC` of `2026-11-03T09:30:00Z`; a date stays as it is. */
function readable(time: string): string {
  return time.replace('T', ' ').replace(/:00(?=Z?$)/, '').replace('Z', ' UTC')
}
