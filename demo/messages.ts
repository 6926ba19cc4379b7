import type { OwnMessage } from '../core/messages/own'
import type { Wording } from '../core/messages/presets'

/** What the demo workspace says in its own words, and sends beside what everybody sends. */

/** The reminder of a damage triage call. */
export const triageReminder: Wording = {
  subject: '{{ when.date }}, {{ when.time }}: {{ eventType.name }}',
  text: `Hello {{ client.name }},

soon we look at your damage together{% if answers.material %} ({{ answers.material | downcase }}){% endif %}. Please have it in front of you, on a clean table in good light.

{% if room.link %}Open {{ room.link }} a minute early.{% else %}The link follows in a mail of its own.{% endif %}

{{ details }}

{{ manage }}

If you would rather not be reminded: {{ remindersPage }}`,
}

/** What follows a damage triage call. */
export const careAdvice: { message: OwnMessage, wording: Wording } = {
  message: { name: 'Care advice', moment: { kind: 'after', minutes: 120, if: 'attended' }, by: 'mail', to: ['client'] },
  wording: {
    subject: 'After our call: how to keep it safe',
    text: `Hello {{ client.name }},

thank you for showing us what has happened. Until we meet again: keep it flat, dry and out of the sun, and please do not use any tape.

{{ hosts }}, {{ workspace.name }}

If you would rather not get such mails: {{ remindersPage }}`,
  },
}

/** Before an insurance loss statement, whose client is called. */
export const callAhead: { message: OwnMessage, wording: Wording } = {
  message: { name: 'We call you soon', moment: { kind: 'before', minutes: 60 }, by: 'phone', to: ['client'] },
  wording: {
    subject: '',
    text: `{{ workspace.name }}: we call you at {{ when.time }} ({{ when.zone }}) about your {{ eventType.name | downcase }}. Please have your policy number at hand.
Move or cancel: {{ booking.page }}
No more texts: {{ remindersPage }}`,
  },
}
