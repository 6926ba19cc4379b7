import type { Fault } from '../faults'
import { describeFault } from './faults'
import { formatList, plural } from '../time/format'

/** What went wrong with a call this time, in sentences, by its reason. */

export interface ProblemReasonValues {
  nothingHere: object
  noSuchCall: object
  methodNotAllowed: { allowed: string[] }
  linkUnknown: object
  jobsOnly: object
  hostsNothing: object
  nobodyHosts: object
  wait: { seconds: number }
  bodyTooLarge: { kilobytes: number }
  bodyBrokenOff: object
  bodyTooSlow: { seconds: number }
  signIn: object
  roleNotAllowed: { role: string }
  foreignPage: object
  ownHoursOnly: object
  ownSessionsOnly: object
  planIsDefault: object
  hostChanged: object
  sessionNotBegun: object
  planInUse: object
  ownAccountOnly: object
  databaseAway: object
  databaseSilent: object
  noJobs: object
  starting: object
  changedAtOnce: object
  hoursChanged: object
  questionSetChanged: object
  wordingChanged: object
  notesChanged: object
  nothingToPay: object
  nothingToRefund: object
  sessionHeld: object
  wordingFaulty: object
  testNotSent: object
  noOwnNumber: object
  invitationOver: { state: 'accepted' | 'withdrawn' | 'expired' }
  invitationForAnother: { email: string }
  memberAlready: object
  lastOwner: object
  confirmFirst: object
  groupChanged: object
  factorNotPossible: object
  addressTaken: object
  signInFirst: object
  beingLookedAt: object
  entryUnchanged: object
  groupInUse: { eventTypes: string[] }
  questionSetInUse: { eventTypes: string[] }
  publishedMeanwhile: { by: string }
  unexpected: object
  justTaken: object
  timeTaken: object
  sessionThen: object
  sessionInTheWay: object
  notAnOpening: { reasons: string[] }
  sessionOver: object
  hasBegun: object
  pastDeadline: object
  bookingEnded: object
  notWaiting: object
  messageDone: object
  roomNotFailing: object
  noRoomToChange: object
  noPlaceToChange: object
  beganAlready: object
  eventTypeBooked: object
  addressElsewhere: object
  confirmedAlready: object
  consentUnknown: object
  tooManyListeners: object
  outsideService: { by: string, fault: Fault }
  askedAlready: object
}
export type ProblemReason = keyof ProblemReasonValues

const invitationsOver = {
  accepted: 'This invitation has been accepted already. Sign in to enter the workspace.',
  withdrawn: 'This invitation was withdrawn.',
  expired: 'This invitation has expired. Please ask for a new one.',
}

const words: { [Reason in ProblemReason]: (values: ProblemReasonValues[Reason]) => string } = {
  nothingHere: () => 'There is nothing at this address.',
  noSuchCall: () => 'There is no such call. The document at /api/openapi.json lists all of them.',
  methodNotAllowed: ({ allowed }) => `This address takes ${formatList(allowed)} only.`,
  linkUnknown: () => 'This link is no longer valid or was mistyped.',
  entryUnchanged: () => 'The entry stands in the calendar as it was written. Perhaps somebody else has decided already.',
  beingLookedAt: () => 'This account is being looked at just now. Please try again in a moment.',
  jobsOnly: () => 'This process runs jobs and answers no requests.',
  hostsNothing: () => 'You host nothing in this workspace, so there are no hours to set.',
  nobodyHosts: () => 'Nobody hosts sessions in this workspace. Add a host on People first.',
  wait: ({ seconds }) => `Please wait ${seconds < 90 ? plural(seconds, 'second') : plural(Math.ceil(seconds / 60), 'minute')} and try again.`,
  bodyTooLarge: ({ kilobytes }) => `A body may have at most ${kilobytes} kB.`,
  bodyBrokenOff: () => 'The request ended before its body did.',
  bodyTooSlow: ({ seconds }) => `A body must arrive within ${seconds} seconds.`,
  signIn: () => 'Please sign in.',
  roleNotAllowed: ({ role }) => `As a ${role} you cannot do this; ask the workspace’s owner.`,
  foreignPage: () => 'This can only be done from Temporia’s own pages.',
  sessionNotBegun: () => 'The session has not begun yet.',
  hostChanged: () => 'Somebody else has changed this host meanwhile. Look at their version, then make your changes again.',
  planIsDefault: () => 'It is the default of a host. Choose another default for them first.',
  planInUse: () => 'An event type names it. Choose other hours there first, then delete it.',
  ownSessionsOnly: () => 'As a host you can book clients into your own sessions only; ask a coordinator or the workspace’s owner.',
  ownHoursOnly: () => 'As a host you can change your own hours only; ask the workspace’s owner.',
  ownAccountOnly: () => 'You can connect your own video account only.',
  databaseAway: () => 'Temporia cannot reach its database just now. Please try again in a moment.',
  databaseSilent: () => 'The database does not answer.',
  noJobs: () => 'No jobs are run just now: mails and video links wait.',
  starting: () => 'The application is still starting.',
  changedAtOnce: () => 'Somebody else has changed this at the same moment, so nothing was changed. Please try again.',
  hoursChanged: () =>
    'Somebody else has changed these hours since you opened them. Nothing of theirs was overwritten; load the page again to see them.',
  invitationOver: ({ state }) => invitationsOver[state],
  invitationForAnother: ({ email }) => `This invitation is for ${email}, and somebody else is signed in here. Sign out first.`,
  memberAlready: () => 'You are a member of this workspace already.',
  lastOwner: () => 'A workspace needs an owner: make somebody else an owner first.',
  confirmFirst: () => 'Please confirm your own address first: follow the link in the mail that was sent to you.',
  nothingToPay: () => 'Nothing is to be paid at this session, or the booking has ended.',
  nothingToRefund: () => 'Nothing is waiting to be paid back.',
  sessionHeld: () => 'A client is paying for a seat in this session at the moment. Please try again in a few minutes.',
  notesChanged: () => 'Somebody else has saved these notes since you opened them.',
  wordingChanged: () =>
    'Somebody else has changed this message since you opened it. Nothing of theirs was overwritten; load the page again to see it.',
  wordingFaulty: () => 'The message cannot be sent before what is wrong with it is mended.',
  testNotSent: () => 'The message was not taken. Please try again in a moment.',
  noOwnNumber: () => 'Your phone number is not known. Enter it on your page under People first.',
  questionSetChanged: () =>
    'Somebody else has changed these questions since you opened them. Nothing of theirs was overwritten; load the page again to see them.',
  factorNotPossible: () => 'A second factor is on already, or your address is not confirmed yet.',
  addressTaken: () => 'This address belongs to another account by now, so nothing was changed.',
  signInFirst: () => 'Your account has a second factor. Sign in first, then follow the link of the invitation again.',
  groupChanged: () => 'Somebody else has changed this group since you opened it. Nothing of theirs was overwritten; load the page again to see it.',
  groupInUse: ({ eventTypes }) => `${formatList(eventTypes)} ${eventTypes.length === 1 ? 'draws' : 'draw'} on this group. Take it out there first, then delete it.`,
  questionSetInUse: ({ eventTypes }) =>
    `These questions are asked by ${formatList(eventTypes)}. Take them out there first, then delete them.`,
  publishedMeanwhile: ({ by }) => `${by} has published this event type since you began. Nothing of theirs was overwritten.`,
  unexpected: () => 'Something went wrong on our side, and nothing was changed. Please try again in a moment.',
  justTaken: () => 'Somebody has just taken this time. Nothing was booked; the nearest other times are given.',
  sessionInTheWay: () => 'The session cannot go there: another session of its host is in the way, or it is over.',
  timeTaken: () => 'This time is taken, so nothing was moved; the nearest other times are given.',
  sessionThen: () => 'Another session takes this time. Nothing was booked; the nearest other times are given.',
  notAnOpening: ({ reasons }) => `Clients could not book this time. ${reasons.join(' ')}`.trim(),
  sessionOver: () => 'This session is over, so it can no longer be changed.',
  hasBegun: () => 'This session has begun, so it can no longer be changed here.',
  pastDeadline: () => 'It is too late to change this booking here. Please answer the mail that confirmed it.',
  bookingEnded: () => 'This booking can no longer be changed in this way: it has ended, or its session is over.',
  notWaiting: () => 'This booking no longer waits for approval, or its session is over.',
  messageDone: () => 'This message has been sent already, or a later change has replaced it.',
  roomNotFailing: () => 'This session’s room is not failing.',
  noPlaceToChange: () => 'This session is over or cancelled, or nobody is confirmed for it.',
  noRoomToChange: () => 'This session has no link that could be changed: it is over, cancelled, not by video, or nobody is confirmed.',
  eventTypeBooked: () => 'Somebody has booked this event type, so it cannot be deleted. You can archive it.',
  beganAlready: () => 'Your first event type is there already; nothing was changed.',
  addressElsewhere: () =>
    'This address already belongs to a member of another workspace. Sign in there, or sign up with another address.',
  confirmedAlready: () => 'This address is confirmed already.',
  outsideService: ({ by, fault }) => `${by} ${describeFault(fault)}.`,
  askedAlready: () => 'A mail has gone out a moment ago. Please wait a while before you ask again.',
  tooManyListeners: () => 'Too many pages listen for changes at present. Please ask now and then instead.',
  consentUnknown: () => 'This consent was not asked for here, or too long ago. Please start again from Connections.',
}

export function formatProblem<Reason extends ProblemReason>(reason: Reason, values: ProblemReasonValues[Reason]): string {
  return words[reason](values)
}
