/**
 * The kinds of problems, each with a stable address of its own under `/problems/`, its status and its title. What went
 * wrong this time is a reason of the catalogue (`core/catalogue/problems.ts`).
 */
export const problems = {
  malformed: { status: 400, title: 'Invalid input', meaning: 'The body or the query is malformed; `errors` names each field.' },
  invalid: { status: 422, title: 'Invalid input', meaning: 'A value does not suit what it is for; `errors` names each field.' },
  brokenOff: { status: 400, title: 'Broken off', meaning: 'The request ended before its body did.' },
  consentUnknown: { status: 400, title: 'Not possible', meaning: 'The consent was not asked for here, or too long ago.' },
  notSignedIn: { status: 401, title: 'Not signed in', meaning: 'Only members may do this, and nobody is signed in.' },
  notAllowed: { status: 403, title: 'Not allowed', meaning: 'The member’s role, or the page it comes from, does not allow it.' },
  notFound: { status: 404, title: 'Not found', meaning: 'There is nothing at this address, or nothing that may be seen.' },
  methodNotAllowed: { status: 405, title: 'Not allowed here', meaning: 'The address does not take this method; `Allow` names those that it takes.' },
  tooSlow: { status: 408, title: 'Too slow', meaning: 'The body did not arrive in time.' },
  invitationOver: { status: 409, title: 'Invitation over', meaning: 'The invitation was accepted, withdrawn, or has expired.' },
  addressInUse: { status: 409, title: 'Address in use', meaning: 'The address belongs to another member.' },
  changedMeanwhile: { status: 409, title: 'Changed meanwhile', meaning: 'Somebody else changed the same thing first; nothing was changed.' },
  confirmedAlready: { status: 409, title: 'Confirmed already', meaning: 'The address is confirmed already.' },
  noLongerOpen: { status: 409, title: 'No longer open', meaning: 'The start is no longer open; `nearest` gives others.' },
  notPossible: { status: 409, title: 'Not possible', meaning: 'The state of the thing does not allow it.' },
  nothingToTry: { status: 409, title: 'Nothing to try', meaning: 'There is nothing that could be tried again.' },
  setUpAlready: { status: 409, title: 'Set up already', meaning: 'The first event type is there already; `created` leads to it.' },
  tooLate: { status: 409, title: 'Too late', meaning: 'The session is over or has begun, or the event type’s deadline is past.' },
  tooLarge: { status: 413, title: 'Too large', meaning: 'The body is larger than any call takes.' },
  tooManyTries: { status: 429, title: 'Too many tries', meaning: 'There were too many tries; `Retry-After` says how long to wait.' },
  outsideService: { status: 502, title: 'The service refused', meaning: 'The video or payment service did not do as it was asked; the detail says why.' },
  unexpected: { status: 500, title: 'Something went wrong', meaning: 'Something went wrong on our side, and nothing was changed.' },
  notAvailable: { status: 503, title: 'Not available', meaning: 'The database cannot be reached; the same may go through in a moment.' },
  notReady: { status: 503, title: 'Not ready', meaning: 'The process cannot serve just now.' },
} as const

export type ProblemCode = keyof typeof problems

/** The address of a kind of problem: `/problems/no-longer-open`. */
export function problemAddress(code: ProblemCode): string {
  return `/problems/${kebab(code)}`
}

export function problemAt(name: string): ProblemCode | null {
  return (Object.keys(problems) as ProblemCode[]).find(code => kebab(code) === name) ?? null
}

function kebab(code: string): string {
  return code.replace(/[A-Z]/g, letter => `-${letter.toLowerCase()}`)
}
