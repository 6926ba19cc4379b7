import { createRouter, defineEventHandler, getRouterParam, type H3Event, type Router, setResponseHeader, setResponseStatus } from 'h3'
import { simpleParser } from 'mailparser'
import { addFaultPages } from '../shared/fault-pages'
import { html, page } from '../shared/html'
import { sendPage } from '../shared/serve'
import type { PigeonholeStore } from './store'

/** Readable inboxes, one per address and phone number, and the same as JSON. */

const service = 'Pigeonhole'
const links: [string, string][] = [['/', 'Inboxes'], ['/faults', 'Faults']]

export function pigeonholePages(store: PigeonholeStore): Router {
  const router = createRouter()

  router.get(
    '/',
    defineEventHandler(event =>
      sendPage(
        event,
        page(
          { service, title: 'Inboxes', links },
          store.inboxes().length === 0
            ? html`<p>Nothing has arrived yet.</p>`
            : html`<table>
                <tr>
                  <th>Address</th>
                  <th>Messages</th>
                  <th>Latest</th>
                </tr>
                ${store.inboxes().map(
                  inbox =>
                    html`<tr>
                      <td><a href="/inbox/${encodeURIComponent(inbox.address)}">${inbox.address}</a></td>
                      <td>${inbox.count}</td>
                      <td>${formatTime(inbox.newest)}</td>
                    </tr>`,
                )}
              </table>`,
        ),
      ),
    ),
  )

  router.get('/inbox/:address', defineEventHandler((event) => {
    const address = decoded(event, 'address')
    if (address.startsWith('+')) {
      return sendPage(event, page({ service, title: address, links }, html`${store.texts(address).map(
        ({ text, from, at }) => html`<div class="card"><p class="quiet">${from} · ${formatTime(at)}</p><p dir="auto" style="white-space: pre-line">${text}</p></div>`,
      )}`))
    }
    return sendPage(
      event,
      page(
        { service, title: address, links },
        html`<table>
          <tr>
            <th>Subject</th>
            <th>From</th>
            <th>Received</th>
          </tr>
          ${store.inbox(address).map(
            message =>
              html`<tr>
                <td><a href="/message/${message.id}" dir="auto">${message.subject || '(no subject)'}</a></td>
                <td>${message.from}</td>
                <td>${formatTime(message.at)}</td>
              </tr>`,
          )}
        </table>`,
      ),
    )
  }))

  router.get('/message/:id', defineEventHandler(async (event) => {
    const found = store.message(getRouterParam(event, 'id') ?? '')
    if (!found) return missing(event)
    const mail = await simpleParser(found.raw)
    const calendar = mail.attachments.find(part => part.contentType === 'text/calendar' || part.contentType === 'application/ics')
    return sendPage(
      event,
      page(
        { service, title: found.about.subject || '(no subject)', links },
        html` <p class="quiet">
            From ${found.about.from} to ${found.about.to.join(', ')} · ${formatTime(found.about.at)} ·
            <a href="/message/${found.about.id}/raw.eml" download>Download the raw message</a>
          </p>
          <iframe
            title="The message"
            sandbox="allow-popups allow-top-navigation-by-user-activation"
            src="/message/${found.about.id}/html"
          ></iframe>
          <h2>Plain text</h2>
          <pre dir="auto">${mail.text ?? ''}</pre>
          ${
            calendar
              ? html`<h2>Calendar attachment</h2>
                  <pre dir="auto">${calendar.content.toString('utf8')}</pre>`
              : null
          }`,
      ),
    )
  }))

  router.get('/message/:id/html', defineEventHandler(async (event) => {
    const found = store.message(getRouterParam(event, 'id') ?? '')
    if (!found) return missing(event)
    setResponseHeader(event, 'content-security-policy', 'default-src \'none\'; style-src \'unsafe-inline\'; img-src data:')
    const mail = await simpleParser(found.raw)
    const body = typeof mail.html === 'string' ? mail.html : html`<pre>${mail.text ?? ''}</pre>`.text
    return sendPage(event, body.replaceAll('<a href=', '<a target="_top" href='))
  }))

  router.get('/message/:id/raw.eml', defineEventHandler((event) => {
    const found = store.message(getRouterParam(event, 'id') ?? '')
    if (!found) return missing(event)
    setResponseHeader(event, 'content-type', 'message/rfc822')
    setResponseHeader(event, 'content-disposition', `attachment; filename="${found.about.id}.eml"`)
    return found.raw
  }))

  router.get('/api/inbox/:address', defineEventHandler(event => ({ messages: store.inbox(decoded(event, 'address')) })))

  router.get('/api/texts/:number', defineEventHandler(event => ({ texts: store.texts(decoded(event, 'number')) })))

  addFaultPages(router, store, { service, links })

  return router
}

function decoded(event: H3Event, name: string): string {
  return decodeURIComponent(getRouterParam(event, name) ?? '')
}

function missing(event: H3Event): string {
  setResponseStatus(event, 404)
  return sendPage(event, page({ service, title: 'Not found', links }, html`<p>There is no such message.</p>`))
}

function formatTime(at: string): string {
  return `${at.slice(0, 10)} ${at.slice(11, 19)} UTC`
}
