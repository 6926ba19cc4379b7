import { createApp } from 'h3'
import { z } from 'zod'
import { lanternInterface } from './lantern/interface'
import { lanternPages } from './lantern/pages'
import { LanternStore } from './lantern/store'
import { pigeonholePages } from './pigeonhole/pages'
import { pigeonholeSmtp } from './pigeonhole/smtp'
import { PigeonholeStore } from './pigeonhole/store'
import { listen } from './shared/serve'

/** The simulated outside services: one process, each service on ports of its own. */

const settings = z
  .object({
    STAND_INS_FOLDER: z.string().min(1),
    LANTERN_PORT: z.coerce.number().int(),
    LANTERN_CLIENT_ID: z.string(),
    LANTERN_CLIENT_SECRET: z.string().min(1),
    /** Accounts that exist from the start: [{ "name", "email" }]. */
    LANTERN_ACCOUNTS: z
      .string()
      .default('[]')
      .transform(text => z.array(z.object({ name: z.string(), email: z.string() })).parse(JSON.parse(text))),
    PIGEONHOLE_PORT: z.coerce.number().int(),
    SMTP_PORT: z.coerce.number().int(),
  })
  .parse(process.env)

const registered = { clientId: settings.LANTERN_CLIENT_ID, clientSecret: settings.LANTERN_CLIENT_SECRET }
const lantern = new LanternStore(settings.STAND_INS_FOLDER, settings.LANTERN_ACCOUNTS.map(account => ({ id: account.email, ...account })))
const pigeonhole = new PigeonholeStore(settings.STAND_INS_FOLDER)

const lanternApp = createApp()
  .use(lanternInterface(lantern, registered, () => `http://127.0.0.1:${settings.LANTERN_PORT}`))
  .use(lanternPages(lantern, registered))
const pigeonholeApp = createApp().use(pigeonholePages(pigeonhole))

const lanternServer = await listen(lanternApp, settings.LANTERN_PORT)
const pigeonholeServer = await listen(pigeonholeApp, settings.PIGEONHOLE_PORT)
const smtp = await pigeonholeSmtp(pigeonhole, settings.SMTP_PORT)
process.send?.('ready')

function stop(): void {
  lanternServer.close()
  lanternServer.closeAllConnections()
  pigeonholeServer.close()
  pigeonholeServer.closeAllConnections()
  smtp.close(() => process.exit(0))
  setTimeout(() => process.exit(0), 500).unref()
}

process.on('SIGTERM', stop)
process.on('SIGINT', stop)
// Started by a script that is gone, even if it was killed: nothing is left behind.
process.on('disconnect', stop)
