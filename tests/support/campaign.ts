/** How much of a campaign is run: a short form with every change, all of it in `npm run test:long`. */
export function campaign(short: number, long: number): number {
  return process.env['TEMPORIA_LONG'] ? long : short
}

/**
 * The longest time that something may take, in milliseconds. Other tests run beside, so short runs only catch what hangs;
 * the figure itself is held by `npm run test:long`.
 */
export function timeLimit(milliseconds: number): number {
  return campaign(10 * milliseconds, milliseconds)
}
