/** The process answers. */
export default defineEventHandler(() => ({ live: true }))
