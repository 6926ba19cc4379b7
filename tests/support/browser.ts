import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import axe from 'axe-core'
import type { Browser, ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, expect, inject } from 'vitest'
import { launchBrowser } from '../../scripts/run/browser'

/** A person at the browser: finds things by their role and label, and hears every complaint of the console. */

export const WIDE = { width: 1280, height: 800 }
export const NARROW = { width: 390, height: 844 }

export class Visitor {
  private constructor(readonly page: Page, private readonly complaints: string[]) {}

  static async arrive(browser: Browser, zone: string, size: { width: number, height: number } = WIDE): Promise<Visitor> {
    const context = await browser.createBrowserContext()
    const page = await context.newPage()
    await page.setViewport(size)
    await page.emulateTimezone(zone)
    const complaints: string[] = []
    page.on('pageerror', error => complaints.push(String(error)))
    // A refused request is an answer that the page is tested to show, not a complaint.
    page.on(
      'console',
      message => message.type() === 'error' && !message.text().startsWith('Failed to load resource') && complaints.push(message.text()),
    )
    return new Visitor(page, complaints)
  }

  async open(url: string): Promise<void> {
    // A client's page that waits for its link listens for it all the while.
    await this.page.goto(url, { waitUntil: url.includes('/bookings/') ? 'networkidle2' : 'networkidle0' })
  }

  /** Waits for an element with this role and name; a name that ends with * is a beginning. */
  async find(role: string, name: string): Promise<ElementHandle<Element>> {
    const exact = !name.endsWith('*')
    const begun = Date.now()
    for (;;) {
      const looked = exact
        ? this.page.$(`::-p-aria([name=${JSON.stringify(name)}][role="${role}"])`)
        : this.findBeginning(role, name.slice(0, -1))
      // A page that is just leaving has nothing to be found on.
      const found = await looked.catch(error => isLeaving(error) ? null : Promise.reject(error))
      if (found) return found
      if (Date.now() - begun > 15_000)
        throw new Error(`Nobody would find the ${role} “${name}” on ${this.page.url()}:\n${await this.text()}`)
      await new Promise(resolve => setTimeout(resolve, 60))
    }
  }

  private async findBeginning(role: string, beginning: string): Promise<ElementHandle<Element> | null> {
    for (const handle of await this.page.$$(`::-p-aria([role="${role}"])`)) {
      const name = await handle.evaluate(element =>
        (element.getAttribute('aria-label') ?? element.textContent ?? '').replace(/\s+/g, ' ').trim(),
      )
      if (name.startsWith(beginning) && await handle.isVisible()) return handle
    }
    return null
  }

  async press(role: string, name: string): Promise<void> {
    const element = await this.find(role, name)
    await element.evaluate(item => item.scrollIntoView({ block: 'center' }))
    await atRest(element)
    await isUncovered(element)
    await element.click()
  }

  /** Replaces what stands in the field with this label. */
  async write(label: string, text: string): Promise<void> {
    const field = await this.find('textbox', label)
    await field.evaluate(element => element.scrollIntoView({ block: 'center' }))
    await field.focus()
    await this.page.keyboard.down('Control')
    await this.page.keyboard.press('a')
    await this.page.keyboard.up('Control')
    await this.page.keyboard.press('Backspace')
    await field.type(text)
  }

  /** Chooses an option from the list of the field with this label. */
  async choose(label: string, option: string): Promise<void> {
    await this.press('combobox', label)
    await this.press('option', option)
  }

  /** Finds an option by typing into the field with this label. */
  async search(label: string, typed: string, option: string): Promise<void> {
    await this.press('combobox', label)
    await this.page.keyboard.type(typed)
    await this.press('option', option)
  }

  text(): Promise<string> {
    return this.page.evaluate(() => document.body.innerText)
  }

  async sees(words: string | RegExp, seconds = 15): Promise<void> {
    await expect.poll(() => this.text(), { timeout: seconds * 1000, message: `${this.page.url()} shows ${words}` }).toMatch(words)
  }

  async signIn(email: string, password: string): Promise<void> {
    await this.open(`${inject('app')}/desk/sign-in`)
    await this.write('E-mail', email)
    await this.write('Password', password)
    await this.press('button', 'Sign in')
    await this.page.waitForFunction(() => location.pathname === '/desk')
  }

  /** What the page hands out as a file when something is pressed. */
  async saves(press: () => Promise<void>, ending = '.json'): Promise<string> {
    const folder = mkdtempSync(join(tmpdir(), 'temporia-saved-'))
    try {
      const session = await this.page.createCDPSession()
      await session.send('Browser.setDownloadBehavior', {
        behavior: 'allow',
        downloadPath: folder,
        browserContextId: this.page.browserContext().id,
      })
      await press()
      await expect
        .poll(() => readdirSync(folder).filter(name => name.endsWith(ending)), { message: 'a file is saved', timeout: 10_000 })
        .toHaveLength(1)
      return readFileSync(join(folder, readdirSync(folder)[0] ?? ''), 'utf8')
    } finally {
      rmSync(folder, { recursive: true, force: true })
    }
  }

  /** No finding of the accessibility scan on the page, or a part of it, as it is now, and enough contrast in the dark too. */
  async isAccessible(part = 'html'): Promise<void> {
    if (!await this.page.evaluate(() => 'axe' in window)) await this.page.evaluate(axe.source)
    for (const value of ['dark', 'light']) {
      await this.page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value }])
      const findings = await this.page.evaluate(async (part, value) => {
        const { axe } = window as unknown as { axe: typeof import('axe-core') }
        // What fades in or changes its colours does so from the next frame on.
        // Whether it is done is looked at frame by frame: the promise of a transition whose element is taken away may never settle.
        do await new Promise(resolve => requestAnimationFrame(() => requestAnimationFrame(resolve)))
        while (document.getAnimations().some(animation => animation instanceof CSSTransition && animation.playState === 'running'))
        const { violations } = await axe.run(part, {
          runOnly: value === 'dark' ? ['color-contrast'] : ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'],
          resultTypes: ['violations'],
          preload: false,
        })
        return violations.map(
          violation =>
            `${violation.impact}: ${violation.help} (${violation.nodes
              .map(node => node.target.join(' '))
              .slice(0, 3)
              .join(', ')})`,
        )
      }, part, value)
      expect(findings, `accessibility of ${this.page.url()} in the ${value} theme`).toEqual([])
    }
  }

  async leave(): Promise<void> {
    expect(this.complaints, 'complaints of the console').toEqual([])
    await this.page.browserContext().close()
  }
}

function isLeaving(error: unknown): boolean {
  return error instanceof Error && /context was destroyed|same JavaScript world|Cannot find context/.test(error.message)
}

/** Waits until an element has stood still for some frames, as a person would before pressing it. */
async function atRest(element: ElementHandle<Element>): Promise<void> {
  await element.evaluate(async (item) => {
    let before = ''
    for (let frame = 0, still = 0; frame < 240 && still < 3; frame++) {
      await new Promise(resolve => requestAnimationFrame(resolve))
      const { x, y, width, height } = item.getBoundingClientRect()
      const now = [x, y, width, height].join(' ')
      still = now === before ? still + 1 : 0
      before = now
    }
  })
}

/** Waits until no dialog or menu that is just closing lies over an element. */
async function isUncovered(element: ElementHandle<Element>): Promise<void> {
  await element.evaluate(async (item) => {
    for (let frame = 0; frame < 240; frame++) {
      const { x, y, width, height } = item.getBoundingClientRect()
      const over = document.elementFromPoint(x + width / 2, y + height / 2)?.closest('.v-overlay')
      if (!over || over.contains(item)) return
      await new Promise(resolve => requestAnimationFrame(resolve))
    }
  })
}

/** A browser for the tests of one file; gives what lets a visitor arrive. */
export function useBrowser(): (zone: string, size?: { width: number, height: number }) => Promise<Visitor> {
  let launched: Awaited<ReturnType<typeof launchBrowser>>
  beforeAll(async () => {
    launched = await launchBrowser()
  })
  afterAll(() => launched.close())
  return (zone, size) => Visitor.arrive(launched.browser, zone, size)
}
