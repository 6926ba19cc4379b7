/** Line ends of every alphabet that a reader's program may break a line at. */
// eslint-disable-next-line no-control-regex
const LINE_ENDS = /\r\n|[\n\r\u000b\u000c\u0085\u2028\u2029]/

/**
 * Text that somebody typed, for a list of `name: value` lines in plain text: every line after the first is quoted, so
 * that none of them can pass for a line of the list.
 */
export function quoteContinuation(text: string): string {
  return text.split(LINE_ENDS).join('\n> ')
}
