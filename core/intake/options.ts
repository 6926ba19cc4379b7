interface Option {
  /** What answers and conditions know it by. */
  value: string
  label: string
}

/**
 * The choices of a question as written one a line, with their values. A choice that only moved keeps its value, and so
 * does one that is worded anew in its place; empty lines are none.
 */
export function optionsOfLines(lines: readonly string[], before: readonly Option[]): Option[] {
  const written = [...lines.entries()].filter(([, label]) => label.trim() !== '')
  const free = new Set(before.map(option => option.value))
  const values = new Map<number, string>()
  const assign = (line: number, option: Option | undefined) => {
    if (option && !values.has(line) && free.delete(option.value)) values.set(line, option.value)
  }
  for (const [line, label] of written) assign(line, before.find(option => option.label === label && free.has(option.value)))
  for (const [line] of written) assign(line, before[line])
  const taken = new Set(before.map(option => option.value))
  return written.map(([line, label]) => {
    const value = values.get(line) ?? newValue(line + 1, taken)
    taken.add(value)
    return { value, label }
  })
}

function newValue(number: number, taken: ReadonlySet<string>): string {
  return taken.has(`choice${number}`) ? newValue(number + 1, taken) : `choice${number}`
}
