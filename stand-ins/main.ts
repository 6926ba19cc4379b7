import { createApp } from 'h3'
import { z } from 'zod'
import { copperplateInterface } from './copperplate/interface'
import { copperplatePages } from './copperplate/pages'
import { accountsSchema, seedAccounts } from './copperplate/seed'
import { CopperplateStore } from './copperplate/store'
import { lanternInterface } from './lantern/interface'
import { lanternPages } from './lantern/pages'
import { LanternStore } from './lantern/store'
import { pigeonholePages } from './pigeonhole/pages'
import { pigeonholeSmtp } from './pigeonhole/smtp'
import { pigeonholeTexts } from './pigeonhole/texts'
import { PigeonholeStore } from './pigeonhole/store'
import { invitationMail } from './quayside/invitations'
import { quaysideInterface } from './quayside/interface'
import { accountSchema, quaysidePages } from './quayside/pages'
import { QuaysideStore } from './quayside/store'
import { listen } from './shared/serve'
import { tollgateInterface } from './tollgate/interface'
import { merchantSchema, tollgatePages } from './tollgate/pages'
import { TollgateStore } from './tollgate/store'

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
    COPPERPLATE_PORT: z.coerce.number().int(),
    COPPERPLATE_CLIENT_ID: z.string(),
    COPPERPLATE_CLIENT_SECRET: z.string().min(1),
    /** Accounts that exist from the start, with their calendars and what is in them. */
    COPPERPLATE_ACCOUNTS: z.string().default('[]').transform(text => accountsSchema.parse(JSON.parse(text))),
    QUAYSIDE_PORT: z.coerce.number().int(),
    /** Accounts that exist from the start, with their users. */
    QUAYSIDE_ACCOUNTS: z.string().default('[]').transform(text => z.array(accountSchema).parse(JSON.parse(text))),
    TOLLGATE_PORT: z.coerce.number().int(),
    /** Merchants that exist from the start. */
    TOLLGATE_MERCHANTS: z.string().default('[]').transform(text => z.array(merchantSchema).parse(JSON.parse(text))),
    PIGEONHOLE_PORT: z.coerce.number().int(),
    SMTP_PORT: z.coerce.number().int(),
    /** Whoever has it may send phone texts. */
    TEXTS_TOKEN: z.string().min(1),
  })
  .parse(process.env)

const registered = { clientId: settings.LANTERN_CLIENT_ID, clientSecret: settings.LANTERN_CLIENT_SECRET }
const lantern = new LanternStore(settings.STAND_INS_FOLDER, settings.LANTERN_ACCOUNTS)
const pigeonhole = new PigeonholeStore(settings.STAND_INS_FOLDER)

const lanternApp = createApp()
  .use(lanternInterface(lantern, registered, () => `http://127.0.0.1:${settings.LANTERN_PORT}`))
  .use(lanternPages(lantern, registered))
const quayside = new QuaysideStore(settings.STAND_INS_FOLDER, settings.QUAYSIDE_ACCOUNTS)
const quaysideOrigin = `http://127.0.0.1:${settings.QUAYSIDE_PORT}`
const quaysideApp = createApp()
  .use(quaysideInterface(quayside, invitationMail(settings.SMTP_PORT, quaysideOrigin), () => quaysideOrigin))
  .use(quaysidePages(quayside))
const copperplate = new CopperplateStore(settings.STAND_INS_FOLDER, () => seedAccounts(settings.COPPERPLATE_ACCOUNTS))
const copperplateApp = createApp()
  .use(copperplateInterface(copperplate))
  .use(copperplatePages(copperplate, { clientId: settings.COPPERPLATE_CLIENT_ID, clientSecret: settings.COPPERPLATE_CLIENT_SECRET }))
const tollgate = new TollgateStore(settings.STAND_INS_FOLDER, settings.TOLLGATE_MERCHANTS)
const tollgateApp = createApp().use(tollgateInterface(tollgate, () => `http://127.0.0.1:${settings.TOLLGATE_PORT}`)).use(tollgatePages(tollgate))
const pigeonholeApp = createApp().use(pigeonholeTexts(pigeonhole, settings.TEXTS_TOKEN)).use(pigeonholePages(pigeonhole))

const lanternServer = await listen(lanternApp, settings.LANTERN_PORT)
const quaysideServer = await listen(quaysideApp, settings.QUAYSIDE_PORT)
const copperplateServer = await listen(copperplateApp, settings.COPPERPLATE_PORT)
const tollgateServer = await listen(tollgateApp, settings.TOLLGATE_PORT)
const pigeonholeServer = await listen(pigeonholeApp, settings.PIGEONHOLE_PORT)
const smtp = await pigeonholeSmtp(pigeonhole, settings.SMTP_PORT)
process.send?.('ready')

function stop(): void {
  for (const server of [lanternServer, quaysideServer, copperplateServer, tollgateServer, pigeonholeServer]) {
    server.close()
    server.closeAllConnections()
  }
  smtp.close(() => process.exit(0))
  setTimeout(() => process.exit(0), 500).unref()
}

process.on('SIGTERM', stop)
process.on('SIGINT', stop)
// Started by a script that is gone, even if it was killed: nothing is left behind.
process.on('disconnect', stop)
