import type { Definition } from '../event-type/definition'
import { allQuestions } from '../intake/question-sets'
import { markdown } from '../markdown'
import type { EventTypePage } from '../views/client'
import { formatDurations, placeWordsForClients } from './event-type'

/** An event type as its page shows it to clients: never a link, never a member's address. `texts`: whether they get phone texts. */
export function clientEventType({ slug, settings, chairs }: Definition, texts = false): EventTypePage['eventType'] {
  const choosable = chairs.filter(chair => chair.policy === 'client').flatMap(chair => chair.hosts)
  const description = settings.description || settings.summary || formatDurations(settings.durations)
  return {
    slug,
    name: settings.name,
    description,
    descriptionHtml: markdown(description),
    colour: settings.colour,
    guests: settings.guests,
    texts,
    durations: settings.durations,
    timeZone: settings.timeZone,
    seats: settings.seats,
    ...(settings.price ? { price: settings.price } : {}),
    mostPeople: settings.mostPeople,
    approval: settings.approval,
    leadTimeMinutes: settings.leadTimeMinutes,
    places: settings.places.map(place => ({ key: place.key, kind: place.kind, label: place.label || placeWordsForClients[place.kind] })),
    questions: allQuestions(settings),
    ...(choosable.length > 0 ? { hosts: choosable.map(({ id, name }) => ({ id, name })) } : {}),
  }
}
