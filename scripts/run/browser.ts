import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import puppeteer, { type Browser } from 'puppeteer-core'

/** Debian's Chromium without a window, with a profile of its own that goes when it closes. */
export async function launchBrowser(): Promise<{ browser: Browser, close: () => Promise<void> }> {
  const profile = mkdtempSync(join(tmpdir(), 'temporia-browser-'))
  const browser = await puppeteer.launch({
    executablePath: '/usr/bin/chromium',
    headless: true,
    userDataDir: profile,
    // Whoever has started it ends it, after what else there is to tidy up.
    handleSIGINT: false,
    handleSIGTERM: false,
    args: [
      '--headless',
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--disable-dev-shm-usage',
      '--lang=en-GB',
      '--accept-lang=en-GB',
      '--font-render-hinting=none',
    ],
    env: { ...process.env, LANGUAGE: 'en_GB', LANG: 'en_GB.UTF-8' },
  })
  return {
    browser,
    close: async () => {
      await browser.close()
      rmSync(profile, { recursive: true, force: true, maxRetries: 5 })
    },
  }
}
