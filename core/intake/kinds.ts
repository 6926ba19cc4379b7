/** What a question may be answered with. */
export const questionKinds = ['text', 'paragraph', 'email', 'phone', 'choice', 'choices', 'yesNo', 'date', 'number'] as const
export type QuestionKind = (typeof questionKinds)[number]

export function hasOptions(kind: QuestionKind): boolean {
  return kind === 'choice' || kind === 'choices'
}
