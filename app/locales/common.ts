/** What many screens say. */
export const texts = {
  showAll: (count: number) => `Show all ${count}`,
  noAnswer: 'No answer came. Please check your connection and try again.',
  nothingHere: 'There is nothing at this address',
  somethingWentWrong: 'Something went wrong',
  dateUnread: (example: string) => `Enter a date such as ${example}`,
  noZone: 'No time zone matches.',
  unsavedChanges: 'Unsaved changes',
  everythingIsSaved: 'Everything is saved.',
  fixTheMarkedPart: 'Fix the marked part before you save.',
  discardChanges: 'Discard changes',
  save: 'Save',
  leaveWithoutSaving: 'Leave without saving? Your changes would be lost.',
  theTimesCouldNotBeLoaded: 'The times could not be loaded. Please try again.',
} as const
