/** Whom clients bring along to their session. */

export const MOST_GUESTS = 10

/** The name is the address where nobody gave one. */
export interface BroughtGuest {
  name: string
  email: string
}

/** Who comes along from a change on, and who no longer does. */
export interface GuestChange {
  added: BroughtGuest[]
  removed: BroughtGuest[]
}

/** As a sentence names them: with the address, since a name alone may be anybody's. */
export function nameGuest({ name, email }: BroughtGuest): string {
  return name === email ? email : `${name} (${email})`
}
