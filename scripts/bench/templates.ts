import { findMessageFaults } from '../../core/messages'

/** How soon somebody who types a template hears what is wrong with it: templates that are as hard to check as they may be. */

const GOAL_MS = 100
const RUNS = 20
/** Some of the parts that one template may have. */
const PARTS = 290

const hard: Record<string, string> = {
  'a field of the greatest length, many times': '{{ answers.a }}'.repeat(PARTS),
  'a loop over it': `{% for a in answerList %}${'{{ a.text }}'.repeat(PARTS)}{% endfor %}`,
  'conditions within conditions': `${'{% if place %}'.repeat(PARTS / 2)}${'{% endif %}'.repeat(PARTS / 2)}`,
  'conditions one after the other': `{% if place %}${'{% elsif place %}x'.repeat(PARTS)}{% endif %}`,
  'conditions left open': '{% if place %}'.repeat(PARTS),
  'unknown fields': '{{ a.b }}'.repeat(PARTS),
  'filters on filters': `{{ client.name${' | append: client.name'.repeat(PARTS)} }}`,
  'brackets within brackets': `{{ a${'['.repeat(4900)}${']'.repeat(4900)} }}`,
  'one long name': `{{ ${'a'.repeat(9900)} }}`,
}

export function measureTemplates(print: (text: string) => void): void {
  let worst = { name: '', ms: 0 }
  for (const [name, text] of Object.entries(hard)) {
    for (let run = 0; run < RUNS; run++) {
      const startedAt = performance.now()
      // Templates that were parsed before are remembered, so each is another one.
      findMessageFaults({ occasion: 'moved', audience: 'client', by: 'mail' }, { subject: 'x', text: `${text}${run}` }, ['a', 'b'])
      const ms = performance.now() - startedAt
      if (run > 0 && ms > worst.ms) worst = { name, ms }
    }
  }
  print(`Checking a template, the slowest of ${Object.keys(hard).length} hard ones (${worst.name})\n  ${worst.ms.toFixed(1)} ms at most; goal ${GOAL_MS} ms ${worst.ms <= GOAL_MS ? 'met' : 'MISSED'}`)
}
