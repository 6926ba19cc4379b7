import { Liquid, type Template } from 'liquidjs'

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
const VALUE_CHARACTERS = 20_000

/** A template that is refused or cannot be rendered. The message names what a person can change. */
export class TemplateError extends Error {
  constructor(message: string) {
    super(message)
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
  findFault: (template: string, sample: Fields) => string | null
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

  function parse(template: string): Template[] {
    const parsed = liquid.parse(template)
    if (hasRange(parsed)) throw new TemplateError('Ranges such as (1..5) cannot be used here')
    return parsed
  }

  return {
    render: (template, fields) => {
      try {
        return String(liquid.renderSync(parse(template), fields))
      } catch (error) {
        throw new TemplateError(describeFault(error, fields))
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
        return describeFault(error, sample)
      }
    },
  }
}

function refuseFile(): never {
  throw new TemplateError('Templates cannot read files')
}

/** A filter may make a text many times longer, and the library counts only what goes in. */
function boundFilter<Filter extends (...args: never[]) => unknown>(filter: Filter) {
  return function (this: ThisParameterType<Filter>, ...args: Parameters<Filter>): unknown {
    const result = filter.apply(this, args)
    if ((typeof result === 'string' || Array.isArray(result)) && result.length > VALUE_CHARACTERS) throw new TemplateError(TOO_MUCH)
    return result
  }
}

const TOO_MUCH = 'The template produces too much text'
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

function describeFault(error: unknown, fields: Fields): string {
  const message = error instanceof Error ? error.message : ''
  if (/limit exceeded/.test(message) || message.includes(TOO_MUCH)) return TOO_MUCH
  const [, variable] = /undefined variable: ([\w.[\]"']+)/.exec(message) ?? []
  if (variable) return unknownField(variable, fields)
  const [, filter] = /undefined filter: (\w+)/.exec(message) ?? []
  if (filter) return `There is no filter “${filter}”`
  const [, tag] = /tag "([^"]+)" not found/.exec(message) ?? []
  if (tag) return `“${tag}” cannot be used here`
  if (error instanceof TemplateError) return message
  return `The template cannot be read: write a field as {{ ${fieldNames(fields)[0]} }}`
}

function unknownField(name: string, fields: Fields): string {
  const names = fieldNames(fields).map(item => `{{ ${item} }}`)
  return `There is no field “${name}”: write ${names.length > 4 ? `${names.slice(0, 4).join(', ')} …` : names.join(' or ')}`
}

function fieldNames(fields: Fields, prefix = ''): string[] {
  return Object.entries(fields).flatMap(([name, value]) =>
    typeof value === 'object' && value !== null && !Array.isArray(value)
      ? fieldNames(Object.fromEntries(Object.entries(value)), `${prefix}${name}.`)
      : [`${prefix}${name}`],
  )
}
