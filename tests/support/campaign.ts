/** How much of a campaign is run: a short form with every change, all of it in `npm run test:long`. */
export function campaign(short: number, long: number): number {
  return process.env['TEMPORIA_LONG'] ? long : short
}
