/** Whether text in a colour can be read on white: a contrast of 4.5 (WCAG 2.2, 1.4.3). Colours are `#RRGGBB`. */
export function isReadableOnWhite(colour: string): boolean {
  return 1.05 / (luminance(colour) + 0.05) >= 4.5
}

/** Relative luminance (WCAG 2.2), from 0 to 1. */
function luminance(colour: string): number {
  const [red = 0, green = 0, blue = 0] = [1, 3, 5].map((at) => {
    const share = Number.parseInt(colour.slice(at, at + 2), 16) / 255
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4
  })
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue
}
