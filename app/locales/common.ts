/** What many screens say. */
export const texts = {
  noAnswer: 'No answer came. Please check your connection and try again.',
  nothingHere: 'There is nothing at this address',
  somethingWentWrong: 'Something went wrong',
} as const
