import { z } from 'zod'
import { addedMessageSchema, changedMessageSchema, messagePreviewSchema, messagesViewSchema, messageTextSchema, previewRequestSchema, savedWordingSchema } from '../../../core/views/messages'
import { messagesQuerySchema } from '../requests'
import { bad, type Call, done, limited, madeSchema, missing, overtaken, savedSchema, text } from './call'

/** The words of messages. An occasion and an audience name a message, `booked` and `client`; an added one is `own` and its id. */

export const messagesCalls = {
  'GET /api/desk/messages': {
    summary: 'What is sent by the workspace or for an event type, and which messages have words of their own',
    right: 'changeMessages', query: messagesQuerySchema, answer: messagesViewSchema, problems: { ...bad, ...missing },
  },
  'POST /api/desk/own-messages': {
    summary: 'Add a message for all event types or for one: when it is sent, and to whom',
    right: 'changeMessages', body: addedMessageSchema, answer: madeSchema, problems: { ...bad, ...missing, 422: 'The workspace has too many' },
  },
  'PUT /api/desk/own-messages/{id}': {
    summary: 'Change when an added message is sent and to whom, over the version that was read',
    right: 'changeMessages', body: changedMessageSchema, answer: savedSchema,
    problems: { ...bad, ...missing, ...overtaken, 422: 'Clients and hosts read different words, and so do mails and phone texts' },
  },
  'DELETE /api/desk/own-messages/{id}': {
    summary: 'End an added message', right: 'changeMessages', answer: done('removed'), problems: missing,
  },
  'GET /api/desk/messages/{occasion}/{audience}': {
    summary: 'The words of a message with their versions, and the names of the fields they can use',
    right: 'changeMessages', query: messagesQuerySchema, answer: messageTextSchema, problems: { ...bad, ...missing },
  },
  'PUT /api/desk/messages/{occasion}/{audience}': {
    summary: 'Save words over the version they were read in, or go back to those that hold without them',
    right: 'changeMessages', body: savedWordingSchema, answer: savedSchema,
    problems: { ...bad, ...missing, ...overtaken, 422: 'The template cannot be used; `errors` names each line and the reason' },
  },
  'POST /api/desk/messages/{occasion}/{audience}/preview': {
    summary: 'A message with a real booking, and what is wrong with its words, by line',
    right: 'changeMessages', body: previewRequestSchema, answer: messagePreviewSchema, problems: { ...bad, ...missing },
  },
  'POST /api/desk/messages/{occasion}/{audience}/test': {
    summary: 'Send a message as it is being worded to oneself',
    right: 'changeMessages', body: previewRequestSchema, answer: z.strictObject({ to: text }),
    problems: { ...bad, ...missing, ...limited, 409: 'The template cannot be used, one’s own address is not confirmed, one’s number is not known, or the message was not taken' },
  },
} as const satisfies Record<string, Call>
