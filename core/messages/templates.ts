import { Liquid, type Template } from 'liquidjs'
import { faultOf, type Fields, isField, type TemplateFault, TemplateError, unknownField, valueAt } from './template-faults'

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
/** Milliseconds that may pass until somebody who types a template hears what is wrong with it. */
const CHECK_LIMIT = 50
const TEMPLATE_CHARACTERS = 10_000
/** Fields, tags and filters in one template. */
const MOST_PARTS = 300
/** Parsed templates that are remembered. */
const MOST_PARSED = 200
const VALUE_CHARACTERS = 20_000
/** Tags within tags. */
const MOST_DEPTH = 20

/** Characters and elements that one rendering may touch, and characters that it may produce. */
const memory = { title: 100_000, message: 500_000 }

export interface TemplateEngine {
  /** Throws TemplateError. */
  render: (template: string, fields: Fields) => string
  /**
   * What is wrong with a template in any of its branches, by line. `sample` has the greatest value for every field that may be
   * used, so that what is found sound renders with any other; fields that it does not have are refused.
   */
  findFaults: (template: string, sample: Fields) => TemplateFault[]
  /** The fields that a template uses, as `['answers', 'material']`; none where it cannot be read. */
  fieldsOf: (template: string) => string[][]
}

/**
 * An engine for one kind of text: titles have conditions only, messages may also loop over the lists they are given. `markValue`
 * is what a field’s value becomes where it is printed.
 */
export function createTemplateEngine(kind: 'title' | 'message', markValue?: (value: string) => string): TemplateEngine {
  const liquid = new Liquid({
    strictVariables: true, strictFilters: true, ownPropertyOnly: true, jsTruthy: true,
    relativeReference: false, parseLimit: TEMPLATE_CHARACTERS, renderLimit: RENDER_LIMIT, memoryLimit: memory[kind],
    fs: { readFileSync: refuseFile, readFile: refuseFile, existsSync: () => false, exists: async () => false, resolve: refuseFile },
    ...markValue && { outputEscape: (value: unknown) => markValue(printed(value)) },
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
    if ((template.match(/\{\{|\{%|\|/g)?.length ?? 0) > MOST_PARTS) throw new TemplateError({ code: 'templateTooMany', values: { most: MOST_PARTS } })
    const parsed = liquid.parse(template)
    const range = findRange(parsed)
    if (range) throw new TemplateError({ code: 'templateRange', values: {} }, lineAt(template, range.begin))
    if (parsedBefore.size >= MOST_PARSED) parsedBefore.clear()
    parsedBefore.set(template, parsed)
    return parsed
  }

  function renderParsed(parsed: Template[], fields: Fields, milliseconds: number): string {
    const text = String(liquid.renderSync(parsed, fields, { renderLimit: milliseconds }))
    if (text.length > memory[kind]) throw new TemplateError({ code: 'templateTooLarge', values: {} })
    return text
  }

  /** Unknown fields, wrong loops and whatever lies too deep, in any branch. */
  function* inspect(templates: readonly Template[], scope: Fields, depth: number): Generator<TemplateFault> {
    if (depth === 0) {
      for (const variable of Object.values(liquid.analyzeSync([...templates]).globals).flat()) {
        if (!isField(scope, variable.segments))
          yield { line: variable.location.row, fault: unknownField(variable.segments.map(String).join('.'), scope) }
      }
    }
    for (const template of templates) {
      const [line = 1] = template.token.getPosition()
      const found = (fault: TemplateFault['fault']) => ({ line, fault })
      if (isLoop(template)) {
        const path = template.collection.getText().trim()
        const list = valueAt(scope, path.split('.'))
        if ('forloop' in scope) yield found({ code: 'templateNested', values: {} })
        else if (!Array.isArray(list)) yield found({ code: 'templateLoop', values: { name: path, lists: listsOf(scope) } })
        else yield* inspect(template.templates, { ...scope, [template.variable]: list[0], forloop }, 0)
      } else if (depth > MOST_DEPTH) yield found({ code: 'templateTooDeep', values: {} })
      else if (hasBranches(template)) yield* inspect(branchesOf(template), scope, depth + 1)
    }
  }

  return {
    render: (template, fields) => {
      try {
        return renderParsed(parse(template), fields, RENDER_LIMIT)
      } catch (error) {
        const { fault, line } = faultOf(error, fields)
        throw new TemplateError(fault, line)
      }
    },
    findFaults: (template, sample) => {
      try {
        const parsed = parse(template)
        const found = [...inspect(parsed, sample, 0)]
        if (found.length === 0) renderParsed(allBranches(parsed), sample, CHECK_LIMIT)
        return found.toSorted((a, b) => a.line - b.line)
      } catch (error) {
        return [faultOf(error, sample)]
      }
    },
    fieldsOf: (template) => {
      try {
        return Object.values(liquid.analyzeSync(parse(template)).globals).flat().map(variable => variable.segments.map(String))
      } catch {
        return []
      }
    },
  }
}

function refuseFile(): never {
  throw new TemplateError({ code: 'templateFile', values: {} })
}

function printed(value: unknown): string {
  return Array.isArray(value) ? value.map(printed).join(', ') : String(value ?? '')
}

/** A filter may make a text many times longer, and the library counts only what goes in. */
function boundFilter<Filter extends (...args: never[]) => unknown>(filter: Filter) {
  return function (this: ThisParameterType<Filter>, ...args: Parameters<Filter>): unknown {
    const result = filter.apply(this, args)
    if ((typeof result === 'string' || Array.isArray(result)) && result.length > VALUE_CHARACTERS)
      throw new TemplateError({ code: 'templateTooLarge', values: {} })
    return result
  }
}

/** The library's own kind of token for `(1..5)`. */
const RANGE_TOKEN = 512
const BACK_REFERENCES = new Set(['liquid', 'token', 'tokenizer', 'input'])

function findRange(node: unknown): { begin: number } | null {
  if (typeof node !== 'object' || node === null) return null
  if ('kind' in node && node.kind === RANGE_TOKEN && 'begin' in node) return { begin: Number(node.begin) }
  for (const [name, inner] of Object.entries(node)) {
    const found = BACK_REFERENCES.has(name) ? null : findRange(inner)
    if (found) return found
  }
  return null
}

const lineAt = (template: string, index: number) => template.slice(0, index).split('\n').length

/** What the library's `if`, `unless` and `case` have in common. */
interface Branching {
  branches: { templates: Template[] }[]
  elseTemplates?: Template[]
}

function hasBranches(template: object): template is Branching {
  return 'branches' in template && Array.isArray(template.branches)
}

/** The library's `for`. */
interface Loop {
  variable: string
  collection: { getText: () => string }
  templates: Template[]
  elseTemplates?: Template[]
}

function isLoop(template: object): template is Loop & Template {
  return 'collection' in template && 'variable' in template && 'templates' in template
}

/** What a loop says of itself. */
const forloop = { first: true, last: true, index: 1, index0: 0, rindex: 1, rindex0: 0, length: 1 }

function listsOf(fields: Fields, prefix = ''): string[] {
  return Object.entries(fields).flatMap(([name, value]) => {
    if (Array.isArray(value)) return [`${prefix}${name}`]
    return typeof value === 'object' && value !== null ? listsOf(Object.fromEntries(Object.entries(value)), `${prefix}${name}.`) : []
  })
}

function branchesOf({ branches, elseTemplates = [] }: Branching): Template[] {
  return [...branches.flatMap(branch => branch.templates), ...elseTemplates]
}

/** The contents of all branches one after the other, with no condition left. */
function allBranches(templates: readonly Template[]): Template[] {
  return templates.flatMap((template) => {
    if (hasBranches(template)) return allBranches(branchesOf(template))
    if (!isLoop(template)) return [template]
    const flat: Template = Object.assign(
      Object.create(Object.getPrototypeOf(template)), template, { templates: allBranches(template.templates) },
    )
    return [flat, ...allBranches(template.elseTemplates ?? [])]
  })
}
