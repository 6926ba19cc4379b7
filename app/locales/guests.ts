/** What these screens say. */
export const texts = {
  eMailOfGuest: (index: string | number) => `E-mail of guest ${index}`,
  namePlaceExample: 'name@place.example',
  guest: (index: string | number) => `guest ${index}`,
  removeNamed: (guest: string | number) => `Remove ${guest}`,
  remove: 'Remove',
  addAGuest: 'Add a guest',
  whoElseComes: 'Who else comes?',
  guestsOf: (client: string) => `Guests of ${client}`,
  whatGuestsGet: 'Whoever you add gets the time and place by mail, and the video link where there is one. Whoever you remove gets word too.',
  whoIsTold: (client: string) => `Guests whom you add or remove get a mail, and so do ${client} and the hosts.`,
  saveAndTell: 'Save and tell them',
  leaveAsItIs: 'Leave it as it is',
} as const
