import { join } from 'node:path'
import { expect, inject, it } from 'vitest'
import { describeCampaign, prepare, runCampaign } from '../scripts/campaign/run'
import { freePort } from '../scripts/run/ports'
import { startApp } from '../scripts/run/services'
import { useApplication } from './support/application'
import { campaign } from './support/campaign'

/** The short form of `npm run campaign`. */

const own = useApplication('campaign', { ROOM_WAIT_SECONDS: '3', RETRY_PACE: '0.1', VIDEO_TIMEOUT_SECONDS: '5' })

it('whatever services do and whenever processes die, every confirmed session has one room and every mail arrives', async () => {
  const kills = campaign(1, 3)
  const port = await freePort(inject('serverPort') + 95, new Set())
  const launch = () => startApp({ folder: own.folder, appPort: port }, { ...own.environment, PORT: String(port) })
  let second = await launch()
  const standIns = { lantern: inject('lantern'), quayside: inject('quayside'), pigeonhole: inject('pigeonhole'), tollgate: inject('tollgate') }
  const outcome = await runCampaign({
    context: own.context,
    apps: [
      { url: own.url, killAndRestart: async () => {
        await own.process.stop('SIGKILL')
        await own.start()
      } },
      { url: `http://127.0.0.1:${port}`, killAndRestart: async () => {
        await second.stop('SIGKILL')
        second = await launch()
      } },
    ],
    standIns,
    sharesStandIns: true,
    workspace: await prepare(own.context, standIns),
    logs: [join(own.folder, 'app.log')],
  }, { seed: 7, bookings: campaign(20, 60), kills })
  await second.stop()
  expect(outcome.findings, describeCampaign(outcome)).toEqual([])
  expect(outcome.record).toMatchObject({ kills })
}, 600_000)
