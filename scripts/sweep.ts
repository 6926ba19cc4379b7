import { type SweepFinding, sweepRooms } from '../server/rooms'
import { closeContext, makeContext } from '../server/start'

/** Mends rooms without sessions and sessions without rooms, as every night: `npm run -s sweep`, with the settings in the environment. */

const words: Record<SweepFinding['kind'], string> = {
  noRoom: 'had no room that anything worked on: it is being made',
  notInStep: 'had a room that was lost or not as it should be: it is brought in step or made anew',
  noSession: 'no longer needs a room that was still there: it is withdrawn',
  doubled: 'had a second room: it is withdrawn',
  deadLink: 'has a link that nothing answers at',
  unknown: 'has rooms that are not of this installation: left alone',
  notAsked: 'could not be asked',
}

const context = await makeContext(process.env)
try {
  const found = await sweepRooms(context)
  if (found === null) process.stdout.write('Another process is sweeping\n')
  for (const finding of found ?? [])
    process.stdout.write(`${'sessionId' in finding ? `Session ${finding.sessionId}` : `${finding.account} at ${finding.service}`} ${words[finding.kind]}\n`)
  if (found?.length === 0) process.stdout.write('All rooms are as they should be\n')
} finally {
  await closeContext(context)
}
