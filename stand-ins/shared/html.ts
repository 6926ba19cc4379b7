/** Pages of the stand-ins: plain HTML from templates in which every value is escaped. */

export class Html {
  constructor(readonly text: string) {}
}

type Value = Html | string | number | null | false | readonly (Html | string)[]

export function html(strings: TemplateStringsArray, ...values: Value[]): Html {
  return new Html(strings.reduce((text, part, index) => text + part + (index < values.length ? show(values[index] ?? null) : ''), ''))
}

function show(value: Value): string {
  if (value === null || value === false) return ''
  if (value instanceof Html) return value.text
  if (typeof value === 'object') return value.map(show).join('')
  return String(value).replace(/[&<>"']/g, character => `&#${character.charCodeAt(0)};`)
}

const css = `
  :root { color-scheme: light; --ink: #1d2a2f; --quiet: #5a686d; --line: #d5dcd9; --ground: #f2f5f3; --tone: #1f5c5a; }
  * { box-sizing: border-box; }
  body { margin: 0; background: var(--ground); color: var(--ink); font: 15px/1.5 Georgia, "DejaVu Serif", serif; }
  header { border-bottom: 1px solid var(--line); background: #fff; padding: 12px 24px; display: flex; gap: 24px; align-items: baseline; flex-wrap: wrap; }
  header strong { font-size: 18px; } header span { color: var(--quiet); }
  main { max-width: 1040px; margin: 24px auto; padding: 0 24px; }
  h1 { font-size: 24px; margin: 0 0 12px; } h2 { font-size: 18px; margin: 24px 0 8px; }
  a { color: var(--tone); }
  table { border-collapse: collapse; width: 100%; background: #fff; border: 1px solid var(--line); }
  th, td { text-align: left; padding: 8px 12px; border-bottom: 1px solid var(--line); vertical-align: top; overflow-wrap: anywhere; }
  th { color: var(--quiet); font-weight: normal; }
  .card { background: #fff; border: 1px solid var(--line); padding: 20px; margin-bottom: 16px; }
  .quiet { color: var(--quiet); }
  button, .button { font: inherit; background: var(--tone); color: #fff; border: 0; padding: 8px 16px; cursor: pointer; text-decoration: none; display: inline-block; }
  button.plain { background: #fff; color: var(--tone); border: 1px solid var(--tone); }
  input, select { font: inherit; padding: 7px 10px; border: 1px solid #8b979b; background: #fff; max-width: 100%; }
  label { display: block; margin-bottom: 12px; } label > span { display: block; margin-bottom: 4px; }
  iframe { width: 100%; min-height: 460px; border: 1px solid var(--line); background: #fff; }
  pre { white-space: pre-wrap; overflow-wrap: anywhere; background: #fff; border: 1px solid var(--line); padding: 16px; font: 13px/1.5 "DejaVu Sans Mono", monospace; }
  .when { white-space: nowrap; font-variant-numeric: tabular-nums; } form.row { display: flex; gap: 6px; } form.row { align-items: center; flex-wrap: wrap; margin-top: 10px; } form.row label { margin: 0 0 0 12px; } form.row input { width: 150px; font-size: 12px; padding: 6px; } form.row button, form.row + form button { white-space: nowrap; padding: 6px 12px; } form.row + form { margin-top: 6px; }
  ul.lines { list-style: none; padding: 0; } ul.lines li { padding: 4px 0; }
`

export interface PageOptions {
  service: string
  title: string
  links?: [href: string, words: string][]
  script?: string
}

export function page({ service, title, links = [], script }: PageOptions, body: Html): string {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <link rel="icon" href="data:," />
        <title>${title} · ${service}</title>
        <style>
          ${new Html(css)}
        </style>
      </head>
      <body>
        <header>
          <strong>${service}</strong
          ><span>Simulated service: nothing leaves this machine</span>${links.map(([href, words]) => html`<a href="${href}">${words}</a>`)}
        </header>
        <main>
          <h1>${title}</h1>
          ${body}
        </main>
        ${script ? new Html(`<script>${script}</script>`) : null}
      </body>
    </html>`.text
}

export interface ListedRoom {
  title: string
  name: string
  /** ISO 8601 in UTC. */
  startsAt: string
  endsAt: string
  hosts: readonly string[]
  attendees: readonly string[]
  hostPath: string
  joinPath: string
}

export function roomTable(rooms: readonly ListedRoom[]): Html {
  if (rooms.length === 0) return html`<p class="quiet">No rooms.</p>`
  return html`<table>
    <tr><th>Room</th><th>Number</th><th>When</th><th>Host</th><th>Attendees</th><th></th></tr>
    ${rooms.map(room => html`<tr>
      <td>${room.title}</td>
      <td class="when">${room.name}</td>
      <td>${room.startsAt.slice(0, 16).replace('T', ' ')} to ${room.endsAt.slice(11, 16)} UTC</td>
      <td>${room.hosts.join(', ')}</td>
      <td>${room.attendees.join(', ')}</td>
      <td><a href="${room.hostPath}">as host</a> · <a href="${room.joinPath}">as guest</a></td>
    </tr>`)}
  </table>`
}

export function callTable(calls: readonly { at: string, call: string, status: number }[]): Html {
  return html`<h2>API calls</h2>
    <table>
      <tr><th>When</th><th>Call</th><th>Answer</th></tr>
      ${[...calls].reverse().slice(0, 30).map(call => html`<tr><td>${call.at}</td><td>${call.call}</td><td>${call.status || 'lost'}</td></tr>`)}
    </table>`
}
