import { texts } from '~/locales/common'

/** The error page for a page whose data did not come: nothing at the address, or a failure that passes. */
export function pageError(error: { statusCode?: number } | null | undefined) {
  const statusCode = error?.statusCode ?? 404
  return createError({
    statusCode,
    statusMessage: statusCode === 404 ? texts.nothingHere : texts.somethingWentWrong,
    fatal: true,
  })
}
