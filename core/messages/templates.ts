import { Liquid, type Template } from 'liquidjs'
import type { Fault } from '../validation'

/**
 * Liquid templates that people write. An engine knows only the tags and filters named here, reads no files, and stops
 * at fixed limits, when a template is saved and again whenever it is rendered.
 */

const CONDITIONS = ['if', 'unless', 'case', 'comment', 'raw', '#']
const LOOPS = ['for', 'break', 'continue']
/** Filters from text to text, and the few that take a text apart. */
const FILTERS = [
  'append',
  'prepend',
  'capitalize',
  'downcase',
  'upcase',
  'strip',
  'lstrip',
  'rstrip',
  'squish',
  'normalize_whitespace',
  'remove',
  'remove_first',
  'remove_last',
  'replace',
  'replace_first',
  'replace_last',
  'truncate',
  'truncatewords',
  'default',
  'split',
  'first',
  'last',
  'join',
  'slice',
  'size',
]

/** Milliseconds that one rendering may take. */
const RENDER_LIMIT = 200
/** Characters and elements that one rendering may touch. */
const MEMORY_LIMIT = 1e5
const TEMPLATE_CHARACTERS = 20_000
/** Parsed templates that are remembered. */
const MOST_PARSED = 200
const VALUE_CHARACTERS = 20_000

/** A template that is refused or cannot be rendered. */
export class TemplateError extends Error {
  constructor(readonly fault: Fault) {
    super(fault.code)
    this.name = 'TemplateError'
  }
}

type Fields = Readonly<Record<string, unknown>>

export interface TemplateEngine {
  /** Throws TemplateError. */
  render: (template: string, fields: Fields) => string
  /**
   * What is wrong with a template in any of its branches, or null. `sample` has a value for every field that may be used;
   * fields it does not have are refused.
   */
  findFault: (template: string, sample: Fields) => Fault | null
}

/** An engine for one kind of text: titles have conditions only, messages may also loop over the lists they are given. */
export function createTemplateEngine(kind: 'title' | 'message'): TemplateEngine {
  const liquid = new Liquid({
    strictVariables: true, strictFilters: true, ownPropertyOnly: true,
    relativeReference: false, parseLimit: TEMPLATE_CHARACTERS, renderLimit: RENDER_LIMIT, memoryLimit: MEMORY_LIMIT,
    fs: { readFileSync: refuseFile, readFile: refuseFile, existsSync: () => false, exists: async () => false, resolve: refuseFile },
  })
  const tags = new Set(kind === 'title' ? CONDITIONS : [...CONDITIONS, ...LOOPS])
  for (const name of Object.keys(liquid.tags)) if (!tags.has(name)) Reflect.deleteProperty(liquid.tags, name)
  const filters = new Set(FILTERS)
  for (const [name, filter] of Object.entries(liquid.filters)) {
    if (!filters.has(name)) Reflect.deleteProperty(liquid.filters, name)
    else if (typeof filter === 'function') liquid.filters[name] = boundFilter(filter)
  }

  const parsedBefore = new Map<string, Template[]>()

  function parse(template: string): Template[] {
    const known = parsedBefore.get(template)
    if (known) return known
    const parsed = liquid.parse(template)
    if (hasRange(parsed)) throw refusal('templateRange')
    if (parsedBefore.size >= MOST_PARSED) parsedBefore.clear()
    parsedBefore.set(template, parsed)
    return parsed
  }

  return {
    render: (template, fields) => {
      try {
        return String(liquid.renderSync(parse(template), fields))
      } catch (error) {
        throw new TemplateError(faultOf(error, fields))
      }
    },
    findFault: (template, sample) => {
      try {
        const parsed = parse(template)
        for (const variable of Object.values(liquid.analyzeSync(parsed).globals).flat()) {
          if (!isField(sample, variable.segments)) return unknownField(variable.segments.map(String).join('.'), sample)
        }
        liquid.renderSync(allBranches(parsed), sample)
        return null
      } catch (error) {
        return faultOf(error, sample)
      }
    },
  }
}

function refuseFile(): never {
  throw refusal('templateFile')
}

/** A filter may make a text many times longer, and the library counts only what goes in. */
function boundFilter<Filter extends (...args: never[]) => unknown>(filter: Filter) {
  return function (this: ThisParameterType<Filter>, ...args: Parameters<Filter>): unknown {
    const result = filter.apply(this, args)
    if ((typeof result === 'string' || Array.isArray(result)) && result.length > VALUE_CHARACTERS) throw refusal('templateTooLarge')
    return result
  }
}

/** The library's own kind of token for `(1..5)`. */
const RANGE_TOKEN = 512
const BACK_REFERENCES = new Set(['liquid', 'token', 'tokenizer', 'input'])

function hasRange(node: unknown): boolean {
  if (typeof node !== 'object' || node === null) return false
  if ('kind' in node && node.kind === RANGE_TOKEN) return true
  return Object.entries(node).some(([name, inner]) => !BACK_REFERENCES.has(name) && hasRange(inner))
}

/** What the library's `if`, `unless` and `case` have in common. */
interface Branching {
  branches: { templates: Template[] }[]
  elseTemplates?: Template[]
}

function hasBranches(template: object): template is Branching {
  return 'branches' in template && Array.isArray(template.branches)
}

/** The contents of all branches one after the other, with no condition left. */
function allBranches(templates: readonly Template[]): Template[] {
  return templates.flatMap((template) => {
    if (!hasBranches(template)) return [template]
    return allBranches([...template.branches.flatMap(branch => branch.templates), ...template.elseTemplates ?? []])
  })
}

function isField(fields: Fields, segments: readonly unknown[]): boolean {
  let value: unknown = fields
  for (const segment of segments) {
    if (typeof value !== 'object' || value === null || typeof segment !== 'string' || !Object.hasOwn(value, segment)) return false
    value = Object.entries(value).find(([name]) => name === segment)?.[1]
  }
  return typeof value !== 'object' || Array.isArray(value)
}

function refusal(code: 'templateRange' | 'templateFile' | 'templateTooLarge'): TemplateError {
  return new TemplateError({ code, values: {} })
}

/** What an error of the library means; it has no codes, and wraps what our own filters throw. */
function faultOf(error: unknown, fields: Fields): Fault {
  const own = ownError(error)
  if (own) return own.fault
  const message = error instanceof Error ? error.message : ''
  if (/limit exceeded/.test(message)) return { code: 'templateTooLarge', values: {} }
  const [, variable] = /undefined variable: ([\w.[\]"']+)/.exec(message) ?? []
  if (variable) return unknownField(variable, fields)
  const [, filter] = /undefined filter: (\w+)/.exec(message) ?? []
  if (filter) return { code: 'templateFilter', values: { name: filter } }
  const [, tag] = /tag "([^"]+)" not found/.exec(message) ?? []
  if (tag) return { code: 'templateTag', values: { name: tag } }
  return { code: 'templateUnreadable', values: { field: fieldNames(fields)[0] ?? '' } }
}

function ownError(error: unknown): TemplateError | null {
  if (error instanceof TemplateError) return error
  if (!(error instanceof Error)) return null
  return ownError(error.cause ?? ('originalError' in error ? error.originalError : null))
}

function unknownField(name: string, fields: Fields): Fault {
  return { code: 'templateField', values: { name, fields: fieldNames(fields) } }
}

function fieldNames(fields: Fields, prefix = ''): string[] {
  return Object.entries(fields).flatMap(([name, value]) =>
    typeof value === 'object' && value !== null && !Array.isArray(value)
      ? fieldNames(Object.fromEntries(Object.entries(value)), `${prefix}${name}.`)
      : [`${prefix}${name}`],
  )
}
