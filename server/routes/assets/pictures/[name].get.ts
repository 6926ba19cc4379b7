import { setResponseHeader } from 'h3'
import { defineCall } from '../../../http/define'
import { notFound, param } from '../../../http/problem'
import { findPicture } from '../../../people'

/** A host's picture, under a name that changes with it. */
export default defineCall('GET /assets/pictures/{name}', async (event, { db }) => {
  const [, hash, size] = /^([0-9a-f]{40})-(large|small)\.webp$/.exec(param(event, 'name')) ?? []
  const bytes = hash && (size === 'large' || size === 'small') ? await findPicture(db, hash, size) : null
  if (!bytes) throw notFound()
  setResponseHeader(event, 'content-type', 'image/webp')
  setResponseHeader(event, 'cache-control', 'public, max-age=31536000, immutable')
  return bytes
})
