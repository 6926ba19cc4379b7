import { createHash } from 'node:crypto'
import { and, eq, isNull } from 'drizzle-orm'
import sharp from 'sharp'
import type { Context } from '../context'
import type { Database } from '../database/connection'
import { hostPictures, hosts } from '../database/schema'

/** Pictures of hosts: made anew from what is sent, so that nothing of the file but its pixels is kept. */

const LARGE = 384
const SMALL = 96
const MOST_PIXELS = 60_000_000
const formats: readonly string[] = ['jpeg', 'png', 'webp']

/** Reads a picture, turns it upright and cuts it to a square. Null for what is no picture of these formats, or is too large. */
export async function makePicture(bytes: Buffer): Promise<{ large: Buffer, small: Buffer } | null> {
  try {
    const open = () => sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error', pages: 1 })
    const { format } = await open().metadata()
    if (!format || !formats.includes(format)) return null
    const square = (size: number) => open().rotate().resize(size, size, { fit: 'cover', position: 'attention' }).webp({ quality: 82 }).toBuffer()
    return { large: await square(LARGE), small: await square(SMALL) }
  } catch {
    return null
  }
}

/** Saves a host's picture in the place of the one before; gives its hash. Null where there is no such host. */
export async function savePicture(
  { db }: Context, workspaceId: string, hostId: string, { large, small }: { large: Buffer, small: Buffer },
): Promise<string | null> {
  const hash = createHash('sha256').update(hostId).update(large).digest('hex').slice(0, 40)
  return db.transaction(async (tx) => {
    const [host] = await tx.update(hosts).set({ picture: hash })
      .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId), isNull(hosts.leftAt))).returning({ id: hosts.id })
    if (!host) return null
    await tx.insert(hostPictures).values({ workspaceId, hostId, hash, large, small })
      .onConflictDoUpdate({ target: [hostPictures.workspaceId, hostPictures.hostId], set: { hash, large, small } })
    return hash
  })
}

export async function deletePicture(db: Database, workspaceId: string, hostId: string): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.update(hosts).set({ picture: null }).where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId)))
    await tx.delete(hostPictures).where(and(eq(hostPictures.workspaceId, workspaceId), eq(hostPictures.hostId, hostId)))
  })
}

/** A picture by its hash, which nobody can guess and which no other picture has. */
export async function findPicture(db: Database, hash: string, size: 'large' | 'small'): Promise<Buffer | null> {
  const [found] = await db.select({ bytes: hostPictures[size] }).from(hostPictures).where(eq(hostPictures.hash, hash))
  return found?.bytes ?? null
}
