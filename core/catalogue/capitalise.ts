/** The text as a sentence begins. */
export const capitalise = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
