import type { ShareReason } from '../rotation/shares'
import { plural } from '../time/format'
import { capitalise } from './capitalise'

/** Why somebody had more sessions than they were due, or fewer, in words. */

type Words = { [Code in ShareReason['code']]: (reason: Extract<ShareReason, { code: Code }>) => string }

const words: Words = {
  withinOne: () => 'within one session',
  away: ({ days }) => `away on ${plural(days, 'day')}`,
  notAble: ({ sessions }) => `not free for ${sessions} of them`,
  chosen: ({ sessions }) => `picked by name for ${sessions}`,
  othersNotAble: () => 'others were not free for some',
  othersChosen: ({ sessions }) => `others were picked for ${sessions}`,
  handedTo: ({ sessions }) => `took over ${sessions}`,
  handedAway: ({ sessions }) => `handed over ${sessions}`,
  evensOut: () => 'evens out as sessions come',
}

function describe<Code extends ShareReason['code']>(reason: Extract<ShareReason, { code: Code }>): string {
  return words[reason.code as Code](reason)
}

/** "Away on 6 days, not free for 12 of them"; empty without a reason. */
export function describeShare(reasons: readonly ShareReason[]): string {
  return capitalise(reasons.map(reason => describe(reason)).join(', '))
}
