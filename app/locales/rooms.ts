/** Which ways to a room are tried. */
export const texts = {
  places: ['first', 'second', 'third', 'fourth', 'fifth'],
  earlier: 'earlier',
  earlierNamed: (way: string) => `Try ${way} earlier`,
}
