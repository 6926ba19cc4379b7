import { formatList, formatNumber } from '../time/format'
import type { AssignmentView } from '../views/rotation'

/** Why a session went to whom it went, in a sentence or two with the numbers behind it. */

/** As people say it: "owed 0.8 of a session", "ahead by 0.2". */
function owedText(host: string, owed: number, locale: string): string {
  const size = formatNumber(Math.abs(owed), locale)
  if (size === formatNumber(0, locale)) return `${host} was owed nothing`
  return owed > 0 ? `${host} was owed ${size} of a session` : `${host} was ahead by ${size}`
}

const EQUAL = 1e-6

function chosenWords(host: string, kind: AssignmentView['kind']): string {
  if (kind === 'handedOver') return `${host} was picked by hand`
  return kind === 'moved' ? `The client stayed with ${host} at another time` : `${host} was picked for this booking`
}

export function explainAssignment({ host, kind, code, turns }: AssignmentView, locale: string): string {
  const others = turns.filter(turn => turn.host !== host).map(turn => turn.host)
  const free = `Free at that time: ${formatList(turns.map(turn => turn.host))}.`
  switch (code) {
    case 'onlyOne':
      return `Nobody else of the chair was free but ${host}.`
    case 'first':
      return `${host} is the first of the list who was free. ${free}`
    case 'chosen':
      return `${chosenWords(host, kind)}${others.length > 0 ? `; ${formatList(others)} ${others.length > 1 ? 'were' : 'was'} free too` : ''}.`
    case 'soonest':
    case 'mostOwed': {
      const own = turns.find(turn => turn.host === host)
      const owed = [own, ...turns.filter(turn => turn !== own)].flatMap(turn => (turn ? [owedText(turn.host, turn.owed, locale)] : []))
      const isTie = own !== undefined && turns.every(turn => Math.abs(turn.owed - own.owed) < EQUAL && turn.weight === own.weight)
      const isMost = own !== undefined && turns.every(turn => turn.owed <= own.owed + EQUAL)
      // Of those who never had one, the first of the pool is taken.
      const isFirst = own?.assignedAt === null
      const last = isTie ? ` All were due alike, and ${host} ${isFirst ? 'had none yet' : 'had waited longest'}.`
        : isMost ? '' : ` By weight, ${host} would have fallen behind soonest.`
      return `${free} ${owed.join(', ')}.${last}`
    }
  }
}
