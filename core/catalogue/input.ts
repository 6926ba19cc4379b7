import type { InputCode, InputFaultValues } from '../validation'
import { formatCount } from '../time/format'

/** Sentences, without their full stop, for what is wrong with a value from outside. */

const figure = (value: number) => value.toLocaleString('en')

const types: Record<InputFaultValues['expected']['type'], string> = {
  text: 'Expected a text',
  number: 'Enter a number',
  wholeNumber: 'Enter a whole number',
  boolean: 'Expected true or false',
  list: 'Expected a list',
  object: 'Expected an object',
}

const sizes: Record<InputFaultValues['tooLarge']['size'], string> = {
  spanDays: 'days in the span',
  gridSteps: 'steps of startEveryMinutes within the span',
  seatSteps: 'steps within the span times the hosts in chairs',
  planDays: 'days of the span times the windows of all hours plans',
  ruleDays: 'days over which recurring windows are followed',
  blocks: 'busy blocks and sessions',
  explanations: 'explained instants times the hosts',
}

const unanswered: Record<InputFaultValues['unanswered']['kind'], string> = {
  text: 'Please answer this',
  paragraph: 'Please answer this',
  email: 'Please enter an e-mail address',
  phone: 'Please enter a phone number',
  choice: 'Please choose one',
  choices: 'Please choose at least one',
  yesNo: 'Please answer yes or no',
  date: 'Please enter a date',
  number: 'Please enter a number',
}

const words: { [Code in InputCode]: (values: InputFaultValues[Code]) => string } = {
  required: () => 'Required',
  expected: ({ type }) => types[type],
  oneOf: ({ options }) => (options.length === 1 ? `Expected ${options[0]}` : `Expected one of ${options.join(', ')}`),
  unknownField: () => 'There is no such field',
  invalid: () => 'Invalid input',
  notJson: () => 'The text is not JSON',
  tooDeep: ({ most }) => `This is nested deeper than ${most} levels`,
  unstorable: () => 'This contains a character that cannot be stored',
  tooLong: ({ most }) => `At most ${figure(most)} characters`,
  tooShort: ({ least }) => `At least ${figure(least)} characters`,
  tooMany: ({ most }) => `At most ${figure(most)} entries`,
  tooFew: ({ least }) => `At least ${formatCount(least)} ${least === 1 ? 'is' : 'are'} required`,
  tooHigh: ({ most }) => `At most ${figure(most)}`,
  tooLow: ({ least }) => `At least ${figure(least)}`,
  repeated: ({ value }) => `“${value}” appears twice`,
  repeatedAddress: () => 'The same address appears twice',
  reservedName: () => 'This name cannot be used',
  multipleLines: () => 'Write it on one line',
  webAddressInName: () => 'A name cannot contain a web address',
  email: () => 'Enter an address such as name@place.example',
  webAddress: () => 'Enter an address such as https://place.example/thanks',
  phone: () => 'Enter the number with its country code, for example +351 21 000 0000',
  id: () => 'Expected an id',
  key: () => 'A key is a short word of letters and digits',
  slug: () => 'Use lower-case letters, digits and single hyphens, such as first-call',
  colour: () => 'Expected a colour such as #54305C',
  country: () => 'Expected a country such as PT',
  region: () => 'Expected a region of the country',
  language: () => 'Expected a language such as en-GB',
  timeZone: () => 'Expected a time zone such as Europe/Lisbon',
  date: () => 'Expected a date such as 2027-03-08',
  instant: () => 'Expected an instant such as 2027-03-08T09:12:00Z',
  year: () => 'Expected a year from 1900 to 2199',
  timeOfDay: () => 'Enter a time of day such as 09:30',
  endTime: () => 'Enter a time of day such as 17:00, at most 24:00',
  windowOrder: () => 'Hours must end after they start; write hours across midnight as two',
  dateOrder: () => 'The last date must not be before the first',
  spanOrder: () => 'The end must not be before the start',
  leadTimeRange: () => 'At most 365 days',
  rulePart: ({ part }) => `A rule has no part called ${part || 'nothing'}`,
  ruleValue: ({ part }) => `${part} needs one value`,
  ruleRepeats: ({ part }) => `${part} appears in the rule twice`,
  ruleNumber: ({ part, most, list, signed }) =>
    `${part} takes ${list ? 'numbers' : 'a number'} from 1 to ${most}${signed ? ', or negative to count from the end' : ''}`,
  ruleFrequency: ({ options }) => `FREQ must be one of ${options.join(', ')}`,
  ruleUntil: () => 'UNTIL must be a date such as 20270630',
  ruleUntilAndCount: () => 'A rule has UNTIL or COUNT, not both',
  ruleUnreadable: () => 'This rule cannot be read',
  countedTooFarBack: () => 'Windows that end after a number of times reach too far back: let them start later, or end on a date',
  tooManyPlans: ({ most }) => `A host has at most ${most} hours plans`,
  foreignHours: () => 'These hours belong to somebody else',
  unknownHost: ({ name }) => (name ? `There is no host called ${name}` : 'There is no such host'),
  tooLarge: ({ size, amount, most }) => `Too large: ${figure(amount)} ${sizes[size]}; at most ${figure(most)} are allowed`,
  tooManyOpenings: ({ most }) => `There are more than ${figure(most)} openings in these days: ask for fewer days`,
  tooManyDays: ({ most }) => `At most ${most} days per call`,
  unknownEventType: () => 'There is no such event type',
  addressTaken: ({ name }) => `This address leads to “${name}”`,
  foreignChair: () => 'This chair belongs to another event type',
  placeAddress: () => 'Enter the address',
  placeNumber: () => 'Enter the number that clients call',
  templateField: ({ name, fields }) => `There is no field “${name}”: write ${templateFields(fields)}`,
  templateFilter: ({ name }) => `There is no filter “${name}”`,
  templateTag: ({ name }) => `“${name}” cannot be used here`,
  templateRange: () => 'Ranges such as (1..5) cannot be used here',
  templateFile: () => 'Templates cannot read files',
  templateTooLarge: () => 'The template produces too much text',
  templateEmpty: () => 'The template produces no text',
  templateUnreadable: ({ field }) => `The template cannot be read: write a field as {{ ${field} }}`,
  equalOptions: () => 'Two options are the same',
  unknownGroup: () => 'This group no longer exists: take it out',
  groupHosts: ({ most }) => `A chair needs a host, and can have ${most} at most with those of its groups`,
  tooManyGroups: ({ most }) => `A workspace can have ${most} groups`,
  unknownQuestionSet: () => 'These shared questions no longer exist: take them out',
  tooManyQuestionSets: ({ most }) => `A workspace has at most ${most} sets of shared questions`,
  memberAlready: () => 'This address belongs to a member of this workspace already',
  invitedAlready: () => 'This address has been invited already: send the invitation again below',
  tooManyInvitations: ({ most }) => `At most ${most} invitations can wait at once`,
  keyTaken: () => 'This key is already used',
  conditionOrder: () => 'A question can only depend on one before it',
  conditionAnswer: () => 'Choose the answer that it depends on',
  unknownQuestion: () => 'There is no such question',
  unanswered: ({ kind }) => unanswered[kind],
  notAnOption: () => 'Choose from the options',
  yesOrNo: () => 'Answer yes or no',
  durationNotOffered: ({ durations }) => `Choose one of ${durations.join(', ')} minutes`,
  placeNotChosen: () => 'Choose where it takes place',
  hostNotOffered: () => 'This host cannot be chosen here',
  guestsNotAllowed: () => 'This event type does not allow guests',
  phoneNeeded: () => 'We call you, so please enter your number',
  idempotencyKey: () => 'An Idempotency-Key of 1 to 128 visible characters is required',
  idempotencyKeyReused: () => 'This key was already used for another booking',
  passwordWithAddress: () => 'Choose a password without your address in it',
  passwordWithName: () => 'Choose a password without your name or your business’s name in it',
  passwordEasyToGuess: ({ warning }) => `This password is easy to guess. ${warning ?? 'Add a few more words that do not belong together.'}`,
  passwordNeeded: () => 'Enter the password that you chose when you signed up',
  wrongPassword: () => 'This is not the password that was chosen at sign-up',
  wrongSignIn: () => 'The address or the password is wrong',
}

export function formatInputFault<Code extends InputCode>({ code, values }: { code: Code, values: InputFaultValues[Code] }): string {
  return words[code](values)
}

/** "{{ client.name }} or {{ eventType.name }}", and no more than a few. */
function templateFields(fields: readonly string[]): string {
  const written = fields.map(field => `{{ ${field} }}`)
  return written.length > 4 ? `${written.slice(0, 4).join(', ')} …` : written.join(' or ')
}
