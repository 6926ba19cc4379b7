import { randomBytes } from 'node:crypto'
import { defineEventHandler, getQuery, getRouterParam, type H3Event, type Router, setResponseStatus } from 'h3'
import { html, page, type PageOptions } from './html'
import { Meeting } from './meeting'
import { readMembers, sendPage } from './serve'

/** Rooms that people walk into: a page for whoever has the link, a waiting room, and lines to each other. */

export interface OpenRoom {
  id: string
  title: string
  /** What it is called among people: its number. */
  name: string
  entry: 'host' | 'open'
  role: 'host' | 'visitor'
}

/** Adds `/room/{key}` for the rooms that `find` knows the keys of. */
export function addRoomPages(router: Router, { service, links }: Omit<PageOptions, 'title'>, find: (key: string) => OpenRoom | null): void {
  const meetings = new Map<string, Meeting>()

  router.get('/room/:key', defineEventHandler((event) => {
    const found = find(getRouterParam(event, 'key') ?? '')
    if (!found) return gone(event)
    return sendPage(
      event,
      page(
        { service, title: found.title, script: roomScript },
        html` <p class="quiet">Room ${found.name} · ${found.role === 'host' ? 'you are the host' : found.entry === 'host' ? 'the host lets people in' : 'open to everybody with the link'}</p>
          <form id="enter" class="card">
            <label><span>Your name</span><input name="name" required autofocus maxlength="60" /></label
            ><button>${found.role === 'host' ? 'Open the room' : found.entry === 'host' ? 'Enter the waiting room' : 'Enter the room'}</button>
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
    const found = find(getRouterParam(event, 'key') ?? '')
    const { name, id } = getQuery(event)
    if (!found) return gone(event)
    const { res } = event.node
    res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' })
    res.write(': open\n\n')
    meetingOf(found).arrive(String(id || randomBytes(8).toString('hex')), String(name || 'Guest').slice(0, 60), found.role, res)
    event._handled = true
  }))

  router.post('/room/:key/let-in', defineEventHandler(event =>
    act(event, (meeting, { id, visitor }) => meeting.letIn(String(id), String(visitor)))))

  router.post('/room/:key/say', defineEventHandler(event =>
    act(event, (meeting, { id, text }) => meeting.say(String(id), String(text)))))

  function meetingOf(room: OpenRoom): Meeting {
    let meeting = meetings.get(room.id)
    if (!meeting) {
      meeting = new Meeting(room.entry)
      meetings.set(room.id, meeting)
    }
    return meeting
  }

  async function act(event: H3Event, change: (meeting: Meeting, members: Record<string, unknown>) => boolean) {
    const found = find(getRouterParam(event, 'key') ?? '')
    const done = found ? change(meetingOf(found), await readMembers(event)) : false
    if (!done) setResponseStatus(event, 403)
    return { done }
  }

  function gone(event: H3Event): string {
    return refusePage(event, { service, ...(links ? { links } : {}) }, 'This room does not exist or was deleted.')
  }
}

export function refusePage(event: H3Event, options: Omit<PageOptions, 'title'>, message: string): string {
  setResponseStatus(event, 404)
  return sendPage(event, page({ ...options, title: 'Not possible' }, html`<p>${message}</p>`))
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
