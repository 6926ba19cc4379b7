/** Texts to phones through a service that reaches the networks. */

export interface PhoneText {
  /** The same for each try at the same text, so that the service can tell. */
  id: string
  /** E.164. */
  to: string
  text: string
}

export interface PhoneTextPort {
  /** Resolves once the service has taken the text. Throws SendFault. */
  send: (text: PhoneText) => Promise<void>
}
