/** Where a session may take place. */
export const placeKinds = ['video', 'address', 'phoneWeCall', 'phoneYouCall', 'clientSuggests', 'agreed'] as const
export type PlaceKind = (typeof placeKinds)[number]
