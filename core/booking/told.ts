/** Who can be told of a booking that a member makes, or not. */
export const tellable = ['client', 'guests', 'hosts'] as const
export type Tellable = (typeof tellable)[number]
