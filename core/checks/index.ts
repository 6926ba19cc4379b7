import { factsOf, type Facts } from './facts'
import { type CheckContext, type Finding, severities } from './finding'
import { clockChanges, holidaysNotChosen, planRunsOut, planZones, ruleNeverHappens } from './hours'
import { silentCalendar, unusedHolds, wholeDaysBlocked, withoutCalendar } from './calendars'
import { hastyApproval, hostWithoutCommonHours, poolOfOne, samePersonTwice } from './people'
import { beyondAccounts, secondLink, troubledAccounts, underMainUser, withoutVideo } from './rooms'
import { bufferBeyondGap, leadBeyondHorizon, limits, neverFits, noOpening, startsHideSessions, withoutPaymentAccount } from './rules'
import { answerNotAsked, asksAgain, closedButLinked, contradictingPlaces, fixedRoomBackToBack, secretInPublic } from './texts'

export { hasWayToRoom } from './rooms'
export { type CheckContext, type CheckHost, type Finding, type WayOut } from './finding'

/** Every check; of findings equally bad, those of an earlier one come first. */
const checks: readonly ((facts: Facts) => Finding[])[] = [
  withoutPaymentAccount, leadBeyondHorizon, neverFits, samePersonTwice, hostWithoutCommonHours, planRunsOut, noOpening,
  secretInPublic, contradictingPlaces, fixedRoomBackToBack, withoutVideo, troubledAccounts, beyondAccounts, secondLink, silentCalendar,
  closedButLinked, answerNotAsked, hastyApproval,
  startsHideSessions, ruleNeverHappens, bufferBeyondGap, limits, poolOfOne, planZones, clockChanges, holidaysNotChosen, asksAgain,
  underMainUser, withoutCalendar, wholeDaysBlocked, unusedHolds,
]

/** What is found about a set-up, the worst first. */
export function findingsOf(context: CheckContext): Finding[] {
  const facts = factsOf(context)
  const found = checks.flatMap(check => check(facts))
  return severities.flatMap(severity => found.filter(finding => finding.severity === severity))
}

export function worstFinding(context: CheckContext): Finding | null {
  return findingsOf(context)[0] ?? null
}
