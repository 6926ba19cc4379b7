/** The items of a select from the words for each value. */
export function selectItems<Value extends string>(words: Readonly<Record<Value, string>>): { value: Value, title: string }[] {
  return (Object.keys(words) as Value[]).map(value => ({ value, title: words[value] }))
}
