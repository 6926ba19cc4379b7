import { describe, expect, inject, it } from 'vitest'
import type { Context } from '../server/context'
import type { Visitor } from './support/browser'
import { useOwner } from './support/owner'
import { at, fieldValue, paint } from './support/strokes'
import { addMember, type TestWorkspace } from './support/workspace'

const app = inject('app')
let context: Context
let workspace: TestWorkspace
let owner: Visitor

const place = { key: 'studio', kind: 'address' as const, label: 'studio', detail: 'Pátio do Prelo 7' }
// Few hours: a large timetable is slow to find one's way in by role and name.
const arrive = useOwner(
  {
    hosts: 2,
    hours: 'Mo-Su 09:00-11:00',
    eventTypes: ['Talk', 'Review', 'Visit'].map(name => ({
      slug: name.toLowerCase(),
      settings: { name, places: [place], tags: name === 'Talk' ? [] : ['paper'] },
    })),
  },
  made => ({ context, workspace, owner } = made),
)

async function openBench(visitor: Visitor, name: string, panel = 'hours'): Promise<void> {
  await visitor.open(`${app}/desk/event-types`)
  const href = await (await visitor.find('link', name)).evaluate(link => (link as HTMLAnchorElement).href)
  await visitor.open(`${href}?panel=${panel}`)
  await visitor.sees('openings in the next 7 days')
}

describe('the bench', () => {
  it('is painted on, typed at, undone and done again, with the sentence and the timetable following', async () => {
    await openBench(owner, 'Talk')
    await owner.press('radio', 'Only within these hours*')
    await owner.write('Hours of the week', 'Mo-Su 10:00-12:00')
    await owner.sees('Monday to Sunday 10:00–12:00')
    await paint(owner, 'Wednesday', at(13), at(14.9))
    await expect.poll(() => fieldValue(owner, 'Hours of the week')).toBe('Mo-Tu,Th-Su 10:00-12:00; We 10:00-12:00,13:00-15:00')
    await owner.sees('Wednesday 10:00–12:00 and 13:00–15:00')
    await paint(owner, 'Monday', at(10), at(11.9))
    await expect.poll(() => fieldValue(owner, 'Hours of the week')).toBe('Tu,Th-Su 10:00-12:00; We 10:00-12:00,13:00-15:00')

    // The same by keyboard: from the cursor on, Space begins and ends a stroke.
    await (await owner.find('slider', 'Sunday')).focus()
    const keys = owner.page.keyboard
    await keys.press('Home')
    await keys.down('Shift')
    for (let hour = 0; hour < 20; hour++) await keys.press('ArrowRight')
    await keys.up('Shift')
    await keys.press('Space')
    for (let quarter = 0; quarter < 3; quarter++) await keys.press('ArrowRight')
    await keys.press('Space')
    await expect
      .poll(() => fieldValue(owner, 'Hours of the week'))
      .toBe('Tu,Th-Sa 10:00-12:00; We 10:00-12:00,13:00-15:00; Su 10:00-12:00,20:00-21:00')
    await owner.isAccessible()

    await keys.down('Control')
    await keys.press('z')
    await keys.up('Control')
    await expect.poll(() => fieldValue(owner, 'Hours of the week')).toBe('Tu,Th-Su 10:00-12:00; We 10:00-12:00,13:00-15:00')
    await owner.press('button', 'Redo')
    await owner.sees('Sunday 10:00–12:00 and 20:00–21:00')

    await owner.write('Hours of the week', 'Mo-Fr 09:00-13:00,12:00-15:00')
    await owner.sees('overlap')
    await owner.write('Hours of the week', 'Mo-Su 10:00-13:00')
    await owner.sees(/\d+ → \d+\s+openings in the next 7 days/)
    await owner.sees('saved as your draft')
    await owner.page.reload({ waitUntil: 'networkidle0' })
    await owner.sees('Monday to Sunday 10:00–13:00')
    await owner.press('button', 'Discard all')
    await owner.sees('whenever their hours allow')
  })

  it('opens a panel with the cursor in it by Enter, and goes back to its phrase by Escape', async () => {
    await openBench(owner, 'Talk')
    const active = () => owner.page.evaluate(() => document.activeElement?.id || document.activeElement?.getAttribute('data-panel'))
    await (await owner.find('button', '30 minutes')).press('Enter')
    await expect.poll(active).toBe('durations')
    await owner.page.keyboard.press('Escape')
    await expect.poll(active).toBe('duration')
  })

  it('edits every part from the sentence, and the way out of a check with one press', async () => {
    await openBench(owner, 'Visit', 'chairs')
    await owner.press('button', 'Remove Host 1 from the chair')
    await owner.sees('with Host,')
    await owner.press('button', 'and also …')
    await owner.press('button', 'limits')
    await owner.write('Sessions a day for each host', '2')
    await owner.sees('at most 2 a day for each host')
    await owner.press('button', '30 minutes')
    await owner.write('Minutes', '15')
    await owner.press('button', 'every 15 minutes')
    await owner.write('Clients can start every', '30')
    await owner.sees('leaves 5 minutes unused')
    await owner.press('button', 'Start every 25 minutes')
    await owner.sees('every 25 minutes')
    await owner.press('button', 'Open, listed')
    await owner.write('Short address', 'Not Good')
    await owner.sees('Use lower-case letters, digits and single hyphens')
    await owner.write('Short address', 'talk')
    await owner.press('button', 'Publish…')
    await owner.sees(/Sessions a day for each host: no limit → at most 2/)
    await owner.sees('Everything booked already would still be allowed.')
    await owner.isAccessible()
    await owner.press('button', 'Publish')
    await owner.sees('This address leads to “Talk”')
    await owner.press('button', 'Keep editing')
    await owner.write('Short address', 'visit-us')
    await owner.press('button', 'Publish…')
    await owner.press('button', 'Publish')
    await owner.sees('Published. Clients see it from now on.')
    await owner.press('button', 'History')
    await owner.sees(/Short address: visit → visit-us/)
    await owner.press('button', 'Bring this version back')
    await owner.sees('5 unpublished changes')
    await owner.press('button', 'Discard all')
  })

  it('builds questions that the form beside it asks at once', async () => {
    await openBench(owner, 'Review')
    await owner.press('button', 'and also …')
    await owner.press('button', 'questions')
    await owner.press('button', 'Add a question')
    await owner.write('Wording of question 1', 'Is it wet?')
    await owner.choose('Answer type of question 1', 'yes or no')
    await owner.press('button', 'Add a question')
    await owner.write('Wording of question 2', 'Since when?')
    await owner.press('checkbox', 'Required')
    await owner.choose('When it is asked', 'only if “yes” to “Is it wet?”')
    await owner.find('group', 'Is it wet? (optional)')
    expect(await owner.page.$('::-p-aria([name="Since when?"][role="textbox"])')).toBeNull()
    await owner.press('radio', 'Yes')
    await owner.find('textbox', 'Since when?')
    await owner.press('button', 'Check the answers')
    await owner.sees('Enter your name')
    await owner.write('Your name', 'Mara')
    await owner.write('E-mail', 'mara@client.example')
    await owner.press('button', 'Check the answers')
    await owner.sees('Please answer this')
    await owner.write('Since when?', 'Monday')
    await owner.press('button', 'Check the answers')
    await owner.sees('These answers are valid.')
    await expect.poll(() => owner.page.$$('.v-messages__message').then(all => all.length), { message: 'the fault has gone' }).toBe(0)
    await owner.isAccessible()
    await (await owner.find('button', 'Question 2, Since when?: drag, or move with the arrow keys')).press('ArrowUp')
    await owner.sees('A question can only depend on one before it')
    await owner.press('button', 'Undo')
    await owner.press('button', 'Discard all')
  })

  it('tells the second of two members whose change came first, shows the difference and puts both together', async () => {
    const colleague = await arrive('Europe/Lisbon')
    const { email, password } = await addMember(context, workspace, 'coordinator')
    await colleague.signIn(email, password)
    await openBench(colleague, 'Talk', 'buffers')
    await openBench(owner, 'Talk', 'leadTime')
    await colleague.write('Kept free after', '20')
    await colleague.press('button', 'Publish…')
    await colleague.press('button', 'Publish')
    await colleague.sees('Published. Clients see it from now on.')
    await owner.write('At least this long before its start', '90')
    await owner.sees('at least 90 minutes')
    await owner.press('button', 'Publish…')
    await owner.press('button', 'Publish')
    await owner.sees('Test coordinator has published first')
    await owner.sees(
      /They changed\s+Kept free after: 10 minutes → 20 minutes\s+You changed\s+How soon before: up to the last moment → at least 90 minutes/,
    )
    await owner.isAccessible()
    await owner.press('button', 'Apply my changes to theirs')
    await owner.sees('with 20 minutes after kept free')
    await owner.sees('at least 90 minutes')
    await owner.press('button', 'Publish…')
    await owner.press('button', 'Publish')
    await owner.sees('Published. Clients see it from now on.')
    await colleague.leave()
  })

  it('publishes after the draft that is still on its way, so that this cannot come back', async () => {
    await openBench(owner, 'Talk', 'buffers')
    await owner.page.setRequestInterception(true)
    const onItsWay = new Promise<void>((resolve) => {
      owner.page.on('request', async (request) => {
        if (request.method() === 'PUT') {
          resolve()
          await new Promise(wait => setTimeout(wait, 1500))
        }
        await request.continue()
      })
    })
    await owner.write('Kept free after', '25')
    await onItsWay
    await owner.press('button', 'Publish…')
    await owner.press('button', 'Publish')
    await owner.sees('Published. Clients see it from now on.')
    owner.page.removeAllListeners('request')
    await owner.page.setRequestInterception(false)
    await openBench(owner, 'Talk', 'buffers')
    await owner.sees('with 25 minutes after kept free')
    expect(await owner.text()).not.toMatch('published first')
  })

  it('puts the list into another order by dragging and by keys', async () => {
    const names = () => owner.page.$$eval('h2 a', all => all.map(item => item.textContent))
    await owner.open(`${app}/desk/event-types?tag=paper`)
    await (await owner.find('button', 'Visit: drag, or move with the arrow keys')).press('ArrowUp')
    await expect.poll(names).toEqual(['Visit', 'Review'])
    await owner.press('link', 'All')
    await expect.poll(names, { message: 'those that were not shown stay in their places' }).toEqual(['Talk', 'Visit', 'Review'])
    await owner.isAccessible()
    const [from, to] = await Promise.all(
      ['Review', 'Talk'].map(async name => (await owner.find('button', `${name}: drag, or move with the arrow keys`)).boundingBox()),
    )
    await owner.page.mouse.move((from?.x ?? 0) + 5, (from?.y ?? 0) + 5)
    await owner.page.mouse.down()
    await owner.page.mouse.move((to?.x ?? 0) + 5, (to?.y ?? 0) + 8, { steps: 5 })
    await owner.page.mouse.up()
    await expect.poll(names).toEqual(['Review', 'Talk', 'Visit'])
    await owner.page.reload({ waitUntil: 'networkidle0' })
    expect(await names()).toEqual(['Review', 'Talk', 'Visit'])
  })
})
