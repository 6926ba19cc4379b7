/** Texts to phones: how long they may be, and in how many parts a network carries one. */

/** Nobody reads more on a phone; as many parts as this makes are paid for one by one. */
export const MOST_CHARACTERS = 640

/** A rendered text as it is sent: no empty lines, and cut between two words where it is too long, so that no link is cut. */
export function fitPhoneText(text: string): string {
  const tight = text.replace(/[^\S\n]+/g, ' ').replace(/ ?\n[\s]*/g, '\n').trim()
  if (tight.length <= MOST_CHARACTERS) return tight
  const cut = tight.slice(0, MOST_CHARACTERS - 1)
  const end = cut.search(/\s\S*$/)
  return `${(end > 0 ? cut.slice(0, end) : cut).trimEnd()}…`
}

/** The default alphabet of 3GPP TS 23.038 §6.2.1, and its extension table, whose characters take two places. */
const BASIC = new Set('@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞÆæßÉ !"#¤%&\'()*+,-./0123456789:;<=>?¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà')
const EXTENDED = new Set('\f^{}\\[~]|€')

/** In how many parts a network carries a text (3GPP TS 23.040 §9.2.3.24.1): other alphabets take more than twice the space. */
export function countParts(text: string): number {
  const characters = [...text]
  const isPlain = characters.every(character => BASIC.has(character) || EXTENDED.has(character))
  const length = isPlain ? characters.reduce((sum, character) => sum + (EXTENDED.has(character) ? 2 : 1), 0) : text.length
  const [whole, part] = isPlain ? [160, 153] : [70, 67]
  return length <= whole ? 1 : Math.ceil(length / part)
}
