/** The parts of a recurrence rule (RFC 5545 §3.3.10) by name. */
export function rulePartsOf(rule: string): Map<string, string> {
  return new Map(rule.split(';').map((part) => {
    const [name = '', value = ''] = part.split('=')
    return [name, value]
  }))
}
