import sharp from 'sharp'

/** Made-up portraits, drawn from four colours: background, clothes, skin and hair. */
export function drawPortrait([background, clothes, skin, hair]: readonly [string, string, string, string]): Promise<Buffer> {
  const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="480" height="480" viewBox="0 0 48 48">
    <rect width="48" height="48" fill="${background}"/>
    <path d="M6 48c0-10 8-16 18-16s18 6 18 16z" fill="${clothes}"/>
    <path d="M19 28h10v7a5 5 0 0 1-10 0z" fill="${skin}"/>
    <ellipse cx="24" cy="19" rx="10.6" ry="12" fill="${hair}"/>
    <ellipse cx="24" cy="21" rx="8.6" ry="10.2" fill="${skin}"/>
    <path d="M15 19c1-6 4-9 9-9s9 3 9 9c-3-4-6-5-9-5s-6 1-9 5z" fill="${hair}"/>
  </svg>`
  return sharp(Buffer.from(drawing)).png().toBuffer()
}
