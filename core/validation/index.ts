import { z } from 'zod'
import { questionKinds } from '../intake/kinds'
import { accountFaultSchema } from '../views/calendar-account'

/**
 * What is wrong with a value from outside: a path, a code and the code's values. The sentence for it stands in the
 * catalogue (`core/catalogue/input.ts`) and is made where somebody reads it.
 */

const none = z.object({})
const text = z.string()
const number = z.number()
const most = z.object({ most: number })
const least = z.object({ least: number })
const name = z.object({ name: text })
const part = z.object({ part: text })

/** The codes, each with its values. */
const values = {
  // Any value
  required: none,
  expected: z.object({ type: z.enum(['text', 'number', 'wholeNumber', 'boolean', 'list', 'object']) }),
  oneOf: z.object({ options: z.array(text) }),
  unknownField: none,
  invalid: none,
  notJson: none,
  tooDeep: most,
  unstorable: none,
  tooLong: most,
  tooShort: least,
  tooMany: most,
  tooFew: least,
  tooHigh: most,
  tooLow: least,
  repeated: z.object({ value: text }),
  repeatedAddress: none,
  reservedName: none,
  multipleLines: none,
  webAddressInName: none,
  // Formats
  email: none,
  webAddress: none,
  roomPattern: none,
  calendarLink: none,
  roomLink: none,
  phone: none,
  notAPicture: none,
  notACalendar: none,
  reservedAddress: none,
  id: none,
  key: none,
  slug: none,
  colour: none,
  country: none,
  region: none,
  language: none,
  timeZone: none,
  date: none,
  instant: none,
  year: none,
  timeOfDay: none,
  endTime: none,
  // Order
  windowOrder: none,
  dateOrder: none,
  awayTooLong: none,
  spanOrder: none,
  inThePast: none,
  // Hours
  leadTimeRange: none,
  rulePart: part,
  ruleValue: part,
  ruleRepeats: part,
  ruleNumber: z.object({ part: text, most: number, list: z.boolean(), signed: z.boolean() }),
  ruleFrequency: z.object({ options: z.array(text) }),
  ruleUntil: none,
  ruleUntilAndCount: none,
  ruleUnreadable: none,
  countedTooFarBack: none,
  tooManyPlans: most,
  foreignHours: none,
  // Queries
  unknownHost: name,
  tooLarge: z.object({
    size: z.enum(['spanDays', 'gridSteps', 'seatSteps', 'planDays', 'ruleDays', 'blocks', 'explanations']), amount: number, most: number,
  }),
  tooManyOpenings: most,
  tooManyDays: most,
  // Event types
  unknownEventType: none,
  addressTaken: name,
  foreignChair: none,
  placeAddress: none,
  placeNumber: none,
  placeNote: none,
  placeNoNumber: z.object({ clients: z.array(text) }),
  templateField: z.object({ name: text, fields: z.array(text) }),
  templateFilter: name,
  templateTag: name,
  twoSides: none,
  currency: none,
  amount: none,
  costTooHigh: none,
  paidFor: none,
  morePeopleThanSeats: z.object({ seats: z.number() }),
  tooManyPeople: z.object({ most: z.number() }),
  fewSeatsLeft: z.object({ left: z.number() }),
  guestsByMail: none,
  wayIsFixed: none,
  quietHoursEmpty: none,
  tooManyMessages: most,
  templateLoop: z.object({ name: text, lists: z.array(text) }),
  templateNested: none,
  templateOpen: z.object({ tag: text }),
  templateTooDeep: none,
  templateTooMany: most,
  templateRange: none,
  templateFile: none,
  templateTooLarge: none,
  templateEmpty: none,
  templateUnreadable: z.object({ field: text }),
  // Questions and answers
  equalOptions: none,
  keyTaken: none,
  memberAlready: none,
  invitedAlready: none,
  tooManyInvitations: most,
  unknownQuestionSet: none,
  unknownGroup: none,
  groupHosts: most,
  tooManyGroups: most,
  unknownObserver: none,
  workspaceAddressTaken: none,
  workspaceAddressReserved: none,
  otherWorkspaceAddress: none,
  calendarRefused: accountFaultSchema,
  tooManyCalendarAccounts: most,
  notWritable: none,
  codeNeeded: none,
  wrongCode: none,
  wrongOwnPassword: none,
  sameAddress: none,
  tooManyQuestionSets: most,
  conditionOrder: none,
  conditionAnswer: none,
  unknownQuestion: none,
  unanswered: z.object({ kind: z.enum(questionKinds) }),
  notAnOption: none,
  yesOrNo: none,
  // Bookings
  durationNotOffered: z.object({ durations: z.array(number) }),
  placeNotChosen: none,
  eventTypeOrOneOff: none,
  eventTypeOrHosts: none,
  hostNotOffered: none,
  guestsNotAllowed: none,
  phoneNeeded: none,
  idempotencyKey: none,
  idempotencyKeyReused: none,
  // Accounts
  passwordWithAddress: none,
  passwordWithName: none,
  passwordEasyToGuess: z.object({ warning: text.nullable() }),
  passwordNeeded: none,
  wrongPassword: none,
  wrongSignIn: none,
} as const

export type InputCode = keyof typeof values
export type InputFaultValues = { [Code in InputCode]: z.infer<(typeof values)[Code]> }
const schemas: { [Code in InputCode]: z.ZodType<InputFaultValues[Code]> } = values

export interface InputFault<Code extends InputCode = InputCode> {
  /** Steps joined by dots, such as `answers.photos`; empty for the value as a whole. */
  path: string
  code: Code
  values: InputFaultValues[Code]
}

export function isInputCode(text: string): text is InputCode {
  return Object.hasOwn(values, text)
}

/** A fault as it is stored and sent. */
export const storedFaultSchema = z.object({ code: text, values: z.record(text, z.unknown()) })

/** A stored fault as what it is; null for a code that no longer exists. */
export function readFault({ code, values: stored }: z.infer<typeof storedFaultSchema>): Fault | null {
  if (!isInputCode(code)) return null
  const parsed = schemas[code].safeParse(stored)
  return parsed.success ? { code, values: parsed.data } : null
}

/** A code in the place of a schema's message. */
export function fault(code: InputCode): string {
  return code
}

/** An issue for `superRefine`, at a path within the checked value. */
export function faultIssue<Code extends InputCode>(path: PropertyKey[], code: Code, params: InputFaultValues[Code]) {
  return { code: 'custom' as const, path, message: code, params: { ...params } }
}

/** Refuses the second of two equal entries, by themselves or by one of their members. */
export function noRepeats(member?: string) {
  return (entries: readonly unknown[], context: z.RefinementCtx) => {
    const seen = new Set<unknown>()
    entries.forEach((entry, index) => {
      const key = member && typeof entry === 'object' && entry !== null ? Reflect.get(entry, member) : entry
      if (seen.has(key)) {
        context.addIssue(faultIssue(member ? [index, member] : [index], 'repeated', { value: String(key) }))
      }
      seen.add(key)
    })
  }
}

/** Everything that a schema found in a value, with `at` before each path. */
export function inputFaults(error: { issues: readonly z.core.$ZodIssue[] } | undefined, value: unknown, at = ''): InputFault[] {
  return error?.issues.flatMap(issue =>
    issue.code === 'unrecognized_keys'
      ? issue.keys.map(key => ({ path: joinPath(at, [...issue.path, key]), code: 'unknownField' as const, values: {} }))
      : [{ ...faultOf(issue, value), path: joinPath(at, issue.path) }]) ?? []
}

export function joinPath(at: string, path: readonly PropertyKey[]): string {
  return [...(at ? [at] : []), ...path].map(String).join('.')
}

/** What is wrong, wherever it stands. */
export type Fault = Omit<InputFault, 'path'>

/** What an issue found in `value` means: the code that stands in its message, else what Zod says by its own codes. */
export function faultOf(issue: z.core.$ZodIssue, value: unknown): Fault {
  if (isInputCode(issue.message)) {
    const parsed = schemas[issue.message].safeParse(issue.code === 'custom' ? issue.params ?? {} : {})
    if (parsed.success) return { code: issue.message, values: parsed.data }
  }
  if (isMissing(value, issue.path)) return { code: 'required', values: {} }
  switch (issue.code) {
    case 'invalid_type': return expectedFault(issue.expected)
    case 'too_big': return tooBig(issue.origin, Number(issue.maximum))
    case 'too_small': return tooSmall(issue.origin, Number(issue.minimum))
    case 'invalid_value': return { code: 'oneOf', values: { options: issue.values.map(String) } }
    case 'invalid_format': return { code: formatCodes[issue.format] ?? 'invalid', values: {} }
    case 'unrecognized_keys': return { code: 'unknownField', values: {} }
    case 'invalid_union': return unionFault(issue)
    default: return { code: 'invalid', values: {} }
  }
}

function isMissing(value: unknown, path: readonly PropertyKey[]): boolean {
  const found = path.reduce<unknown>((at, step) => (typeof at === 'object' && at !== null ? Reflect.get(at, step) : undefined), value)
  return found === undefined
}

function unionFault(issue: z.core.$ZodIssueInvalidUnion): Fault {
  return 'options' in issue && Array.isArray(issue.options)
    ? { code: 'oneOf', values: { options: issue.options.map(String) } }
    : { code: 'invalid', values: {} }
}

const formatCodes: Readonly<Record<string, InputCode>> = {
  email: 'email', uuid: 'id', url: 'webAddress', date: 'date', datetime: 'instant',
}

const expectedTypes: Readonly<Record<string, InputFaultValues['expected']['type']>> = {
  string: 'text', number: 'number', int: 'wholeNumber', boolean: 'boolean', array: 'list', object: 'object', record: 'object',
}

function expectedFault(expected: string): Fault {
  const type = expectedTypes[expected]
  return type ? { code: 'expected', values: { type } } : { code: 'invalid', values: {} }
}

function tooBig(origin: string, most: number): Fault {
  if (origin === 'string') return { code: 'tooLong', values: { most } }
  return { code: origin === 'array' || origin === 'set' ? 'tooMany' : 'tooHigh', values: { most } }
}

function tooSmall(origin: string, least: number): Fault {
  if (origin === 'string') return least <= 1 ? { code: 'required', values: {} } : { code: 'tooShort', values: { least } }
  return { code: origin === 'array' || origin === 'set' ? 'tooFew' : 'tooLow', values: { least } }
}
