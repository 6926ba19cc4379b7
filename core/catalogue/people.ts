import type { Person } from '../checks/finding'
import { formatList } from '../time/format'

/** People in sentences: whoever reads is spoken to as “you”. */

export const named = ({ name, own }: Person) => (own ? 'you' : name)
export const listPeople = (people: readonly Person[]) => formatList(people.map(named))
export const isOneOther = (people: readonly Person[]) => people.length === 1 && people[0]?.own === false
/** “Ana has”, “Ana and Bo have”, “you have”. */
export const has = (...people: readonly Person[]) => `${listPeople(people)} ${isOneOther(people) ? 'has' : 'have'}`
export const whose = ({ name, own }: Person) => (own ? 'your' : `${name}’s`)
