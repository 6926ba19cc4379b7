import { describe, inject, it } from 'vitest'
import { DAY, formatInstant } from '../core/time/civil'
import { closeContext, makeContext } from '../server/start'
import { useBrowser } from './support/browser'
import { copperplateCalendar, entry } from './support/calendars'
import { addMember, makeWorkspace } from './support/workspace'

const app = inject('app')
const arrive = useBrowser()

describe('connections', () => {
  it('a host connects a calendar, sees what it takes, chooses what counts, is told why a time is taken, and disconnects', async () => {
    const context = await makeContext(inject('environment'))
    const workspace = await makeWorkspace(context, { hosts: 1, zone: 'Europe/Lisbon', eventTypes: [{ slug: 'talk' }] })
    const hostId = workspace.hosts[0]?.id ?? ''
    const member = await addMember(context, workspace, 'host', hostId)
    await closeContext(context)
    const user = `seen-${hostId.slice(0, 8)}`
    const calendar = await copperplateCalendar(inject('copperplate'), user)
    const tomorrow = (Math.floor(Date.now() / 1000 / DAY) + 1) * DAY
    await calendar.put('a.ics', entry('a', formatInstant(tomorrow + 10 * 3600), formatInstant(tomorrow + 11 * 3600)))
    const [from, to] = [formatInstant(tomorrow + 14 * 3600), formatInstant(tomorrow + 15 * 3600)]
    await calendar.put('b.ics', entry('b', from, to).replace('DTSTART:2', 'DTSTART:never2'))

    const host = await arrive('Europe/Lisbon')
    await host.signIn(member.email, member.password)
    await host.open(`${app}/desk/connections`)
    await host.sees(/No calendar is connected: clients are offered your hours/)
    await host.press('button', 'Connect a calendar')
    await host.write('Server or mail address', calendar.address)
    await host.press('button', 'Find the server')
    await host.sees(/Your password is sent to 127\.0\.0\.1:\d+, and to nobody else/)
    await host.write('User', user)
    await host.write('Password', 'wrong')
    await host.press('button', 'Connect')
    await host.sees(/refuses the user or the password/)
    await host.write('Password', calendar.password)
    await host.press('button', 'Connect')
    await host.sees(/Secret dentist/)
    await host.sees(/read .* ago, 1 entry/)
    await host.sees(/1 could not be read/)
    await host.press('button', 'which')
    await host.sees(/“never2\d+T\d+Z” is no date or time/)
    await host.press('button', 'Close')
    await host.isAccessible()

    await host.press('button', 'What counts of Work')
    await host.press('checkbox', 'Entries that are tentative or not answered yet take time')
    await host.sees(/yes, confirmed only/)
    await host.press('button', 'Look again at*')
    await host.press('button', 'Disconnect*')
    await host.sees(/Work no longer blocks: 1 entry no longer takes time/)
    await host.press('button', 'Disconnect')
    await host.sees(/No calendar is connected/)
    await host.leave()
  })
})
