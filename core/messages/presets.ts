import type { Audience, Occasion } from './occasions'

/** The words of messages where a workspace has written none of its own, in Liquid. */

/** Subject and text over the fields of `templateFields`. */
export interface Wording {
  subject: string
  text: string
}

const linkFollows =
  '{% if room.follows %} The video link is still being made and follows in another mail.{% endif %}'

const guestsSince =
  '{% if guests.added %} Now invited: {{ guests.added }}.{% endif %}{% if guests.removed %} No longer invited: {{ guests.removed }}.{% endif %}'

const notSent: Wording = { subject: '', text: '' }

/** Of phone texts, which have no subject and little room. */
export const phonePresets: Record<Audience, Wording> = {
  client: {
    subject: '',
    text: '{{ workspace.name }}: {{ eventType.name }}, {{ when.short }} ({{ when.zone }}).{% if room.link %} Join: {{ room.link }}{% endif %}\nMove or cancel: {{ booking.page }}',
  },
  host: {
    subject: '',
    text: '{{ client.name }}: {{ eventType.name }}, {{ when.short }}.{% if room.link %} Open: {{ room.link }}{% endif %}{% if client.phone %} {{ client.phone }}{% endif %}\n{{ session.page }}',
  },
}

export const presets: Record<Occasion, Record<Audience, Wording>> = {
  booked: {
    client: {
      subject: '{{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nYour {{ session.title }} is booked.${linkFollows}\n\n{{ details }}\n\n{{ manage }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: '{{ client.name }}: {{ eventType.name }}, {{ when.short }}',
      text: `{% if byTeam %}{{ actor }} has booked {{ session.title }} for {{ client.name }}{% else %}{{ client.name }} has booked {{ session.title }}{% endif %}.${linkFollows}\n\n{{ details }}\n\nEverything about this session: {{ session.page }}`,
    },
  },
  awaitingApproval: {
    client: {
      subject: 'Requested: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nThank you for requesting {{ eventType.name }}. The time is held for you until {{ hosts }} approves or declines it{% if booking.heldUntil %}, but not beyond {{ booking.heldUntil }}{% endif %}. You will get a mail either way.\n\n{{ details }}\n\n{{ manage }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: 'To approve: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `{{ client.name }} requests {{ eventType.name }}. The time is held until you approve or decline{% if booking.heldUntil %}; without an answer the request expires on {{ booking.heldUntil }}{% endif %}.\n\n{{ details }}\n\nApprove or decline here: {{ session.page }}`,
    },
  },
  declined: {
    client: {
      subject: 'Not possible: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nWe are sorry, {{ eventType.name }} is not possible at this time. You are welcome to choose another time.\n\n{{ details }}\n\nOther times: {{ eventType.page }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: 'Declined: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `The request of {{ client.name }} for {{ eventType.name }} was declined.\n\n{{ details }}\n\nThe session: {{ session.page }}`,
    },
  },
  cancelled: {
    client: {
      subject: 'Cancelled: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nYour {{ session.title }} is cancelled.\n\n{{ details }}\n\nIf you would like another time: {{ eventType.page }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: 'Cancelled: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `{{ actor }} has cancelled {{ eventType.name }}{% if actor != client.name %} with {{ client.name }}{% endif %}.\n\n{{ details }}\n\nThe session: {{ session.page }}`,
    },
  },
  expired: {
    client: {
      subject: 'No answer: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nWe are sorry, nobody has answered your request for {{ eventType.name }} in time, so the time is no longer held for you. You are welcome to choose another one.\n\n{{ details }}\n\nOther times: {{ eventType.page }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: 'Expired: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `Nobody has approved or declined the request of {{ client.name }} for {{ eventType.name }} in time. The client has been told, and the time is free again.\n\n{{ details }}\n\nThe session: {{ session.page }}`,
    },
  },
  moved: {
    client: {
      subject: 'New time: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nYour {% if booking.isRequest %}request for {{ eventType.name }}{% else %}{{ session.title }}{% endif %} has moved. The time before was {{ when.other }}; please forget that one.{% if hasOtherHosts %} You now meet {{ hosts }}.{% endif %}${linkFollows}\n\n{{ details }}\n\n{{ manage }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: 'New time: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `{{ actor }} has moved {{ eventType.name }}{% if actor != client.name %} with {{ client.name }}{% endif %}. The time before was {{ when.other }}.{% if hasOtherHosts %} Who hosts it now: {{ hosts }}.{% endif %}${linkFollows}\n\n{{ details }}\n\nEverything about this session: {{ session.page }}`,
    },
  },
  movedAway: {
    client: notSent,
    host: {
      subject: 'No longer yours: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `{{ actor }} has moved {{ eventType.name }}{% if actor != client.name %} with {{ client.name }}{% endif %} from {{ when.other }} to a time when you are not free, so you no longer host it. Who hosts it now: {{ hosts }}.\n\n{{ details }}\n\n{{ workspace.name }}`,
    },
  },
  left: {
    client: notSent,
    host: {
      subject: 'Moved elsewhere: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `{{ client.name }} now has another time, {{ when.other }}, and no longer comes to this session.\n\n{{ details }}\n\nThe session: {{ session.page }}`,
    },
  },
  linkFollows: {
    client: {
      subject: 'Your video link: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nHere is the video link for your {{ session.title }}.\n\n{{ details }}\n\n{{ manage }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: 'The video link: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `The room for {{ eventType.name }} with {{ client.name }} is ready.\n\n{{ details }}\n\nEverything about this session: {{ session.page }}`,
    },
  },
  newLink: {
    client: {
      subject: 'New video link: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nThe video link for your {{ session.title }} has changed. Please use the new one; the old one no longer leads to us.${linkFollows}\n\n{{ details }}\n\n{{ manage }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: 'New video link: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `{{ actor }} has changed the video link for {{ eventType.name }} with {{ client.name }}.${linkFollows}\n\n{{ details }}\n\nEverything about this session: {{ session.page }}`,
    },
  },
  linkRemoved: {
    client: {
      subject: 'Video link removed: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nThe video link for your {{ session.title }} no longer works. The time stays as it is; {{ hosts }} will tell you how you meet.\n\n{{ details }}\n\n{{ manage }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: 'Video link removed: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `{{ actor }} has removed the video link for {{ eventType.name }} with {{ client.name }}. There is no other one.\n\n{{ details }}\n\nEverything about this session: {{ session.page }}`,
    },
  },
  placeChanged: {
    client: {
      subject: 'Where we meet: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nHere is where your {{ session.title }} takes place. The time stays as it is.${linkFollows}\n\n{{ details }}\n\n{{ manage }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: 'Another place: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `{{ actor }} has changed where {{ eventType.name }} with {{ client.name }} takes place.${linkFollows}\n\n{{ details }}\n\nEverything about this session: {{ session.page }}`,
    },
  },
  linkMissing: {
    client: notSent,
    host: {
      subject: 'No video link yet: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `{% if room.link %}The video link for {{ eventType.name }} with {{ client.name }} has just come.{% else %}There is still no video link for {{ eventType.name }} with {{ client.name }}. Temporia goes on trying, and your client knows that the link follows. You can paste a link of your own, or meet elsewhere.{% endif %}\n\n{{ details }}\n\nMend it here: {{ session.page }}`,
    },
  },
  handedOver: {
    client: {
      subject: 'Another host: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nYour host for {{ eventType.name }} has changed: you now meet {{ hosts }}. The time stays as it is.${linkFollows}\n\n{{ details }}\n\n{{ manage }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: 'Handed over: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `{{ actor }} has handed over {{ eventType.name }} with {{ client.name }}. Who hosts it now: {{ hosts }}.${linkFollows}\n\n{{ details }}\n\nEverything about this session: {{ session.page }}`,
    },
  },
  handedAway: {
    client: notSent,
    host: {
      subject: 'No longer yours: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `{{ actor }} has handed over {{ eventType.name }} with {{ client.name }}, so you no longer host it. Who hosts it now: {{ hosts }}.\n\n{{ details }}\n\n{{ workspace.name }}`,
    },
  },
  before: {
    client: {
      subject: 'Reminder: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nA reminder of your {{ session.title }}.${linkFollows}\n\n{{ details }}\n\n{{ manage }}\n\n{{ workspace.name }}\n\nIf you would rather not be reminded: {{ remindersPage }}`,
    },
    host: notSent,
  },
  bookingsList: {
    client: {
      subject: 'Your bookings with {{ workspace.name }}',
      text: `Hello {{ client.name }},\n\nHere is the link to all your bookings with {{ workspace.name }}, to see, move or cancel them. It works for 24 hours, as often as you like. If you have not asked for it, you need not do anything.\n\nYour bookings: {{ listPage }}\n\n{{ workspace.name }}`,
    },
    host: notSent,
  },
  // Has the words that its workspace gives it, and these where they fail.
  own: {
    client: {
      subject: '{{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nA word on your {{ session.title }}.\n\n{{ details }}\n\n{{ manage }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: '{{ client.name }}: {{ eventType.name }}, {{ when.short }}',
      text: '{{ details }}\n\nEverything about this session: {{ session.page }}',
    },
  },
  guestAdded: {
    client: {
      subject: '{{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\n{% if booking.isRequest %}{{ booking.client }} has asked for {{ eventType.name }} and invites you along. {{ hosts }} still has to approve it; you will get a mail either way.{% else %}{{ booking.client }} has invited you along to {{ session.title }}.${linkFollows}{% endif %}\n\n{{ details }}\n\n{{ workspace.name }}`,
    },
    host: notSent,
  },
  guestRemoved: {
    client: {
      subject: 'No longer invited: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nYou were to come along to {{ eventType.name }} with {{ booking.client }}. {{ actor }} has taken you off the list, so you are not expected any more.\n\n{{ details }}\n\n{{ workspace.name }}`,
    },
    host: notSent,
  },
  guestsChanged: {
    client: {
      subject: 'Guests changed: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\n{% if actor == client.name %}You have{% else %}{{ actor }} has{% endif %} changed who comes with you to {{ session.title }}.${guestsSince}\n\n{{ details }}\n\n{{ manage }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: 'Guests changed: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `{{ actor }} has changed who comes {% if actor == client.name %}along{% else %}with {{ client.name }}{% endif %} to {{ eventType.name }}.${guestsSince}\n\n{{ details }}\n\nEverything about this session: {{ session.page }}`,
    },
  },
  peopleChanged: {
    client: {
      subject: 'Now for {{ booking.people }}: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\n{% if actor == client.name %}You have{% else %}{{ actor }} has{% endif %} changed how many come to {{ session.title }}. It is now booked for {{ booking.people }}.\n\n{{ details }}\n\n{{ manage }}\n\n{{ workspace.name }}`,
    },
    host: {
      subject: 'Now for {{ booking.people }}: {{ client.name }}, {{ eventType.name }}, {{ when.short }}',
      text: `{{ actor }} has changed how many come {% if actor != client.name %}with {{ client.name }} {% endif %}to {{ eventType.name }}: {{ booking.people }}.\n\n{{ details }}\n\nEverything about this session: {{ session.page }}`,
    },
  },
  paymentWanted: {
    client: {
      subject: 'To pay: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\nWe hold {{ eventType.name }} for you{% if payment.until %} until {{ payment.until }}{% endif %}. It is booked once you have paid {{ payment.amount }}. If you have done so already, you need not do anything.\n\nPay here: {{ booking.page }}\n\n{{ details }}\n\n{{ workspace.name }}`,
    },
    host: notSent,
  },
  unpaid: {
    client: {
      subject: 'No longer held: {{ eventType.name }}, {{ when.short }}',
      text: `Hello {{ client.name }},\n\n{{ eventType.name }} was not paid in time, so the time is no longer held for you. You are welcome to choose it again, or another one. Whatever is paid now is paid back by itself.\n\n{{ details }}\n\nChoose a time: {{ eventType.page }}\n\n{{ workspace.name }}`,
    },
    host: notSent,
  },
  refunded: {
    client: {
      subject: 'Paid back: {{ payment.refunded }}, {{ eventType.name }}',
      text: `Hello {{ client.name }},\n\n{% if payment.isLate %}Your payment for {{ eventType.name }} came when the time was no longer held for you. {% endif %}We have paid back {{ payment.refunded }} of the {{ payment.amount }} that you paid. It may take a few days until you see it.\n\n{{ details }}\n\n{{ workspace.name }}`,
    },
    host: notSent,
  },
}
