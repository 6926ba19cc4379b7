/** Which ways to a room are tried. */
export const texts = {
  place: (index: number) => (index === 0 ? 'first' : `then ${index + 1}.`),
  earlier: 'earlier',
  earlierNamed: (way: string) => `Try ${way} earlier`,
}
