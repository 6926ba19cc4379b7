import { describe, expect, it } from 'vitest'
import { thrown } from '../../tests/support/thrown'
import { formatInputFault } from '../catalogue/input'
import type { Fault } from '../validation'
import { TemplateError } from './template-faults'
import { createTemplateEngine } from './templates'
import { PRESET_TITLE, renderTitle, titleFault } from './title'

const words = (fault: Fault | null) => (fault ? formatInputFault(fault) : null)
const fields = { client: { name: 'Ana' }, eventType: { name: 'Triage' } }

describe('a title', () => {
  it.each([
    PRESET_TITLE, '{{ client.name | upcase | truncate: 20 }}', '{% if client.name == "x" %}A{% else %}{{ eventType.name }}{% endif %}',
    '{% unless client.name == "x" %}B{% endunless %}', '{% case client.name %}{% when "x" %}C{% else %}D{% endcase %}', 'plain words',
  ])('takes fields, filters and conditions: %s', (template) => {
    expect(titleFault(template)).toBeNull()
    expect(renderTitle(template, fields).fault).toBeNull()
  })

  it.each([
    ['{% include ".npmrc" %}', '“include” cannot be used here'],
    ['{% render "package.json" %}', '“render” cannot be used here'],
    ['{% layout "README.md" %}', '“layout” cannot be used here'],
    ['{% block a %}{% endblock %}', '“block” cannot be used here'],
    ['{% for i in (1..3) %}{{ i }}{% endfor %}', '“for” cannot be used here'],
    ['{% tablerow i in (1..3) %}{{ i }}{% endtablerow %}', '“tablerow” cannot be used here'],
    ['{% assign a = "b" %}{{ a }}', '“assign” cannot be used here'],
    ['{% capture a %}{% endcapture %}', '“capture” cannot be used here'],
    ['{% liquid\ninclude ".npmrc" %}', '“liquid” cannot be used here'],
    ['{{ (1..99999999) | join }}', 'Ranges such as (1..5) cannot be used here'],
    ['{% if client.name == "y" %}{{ (1..99999999) | join }}{% endif %}', 'Ranges such as (1..5) cannot be used here'],
    ['{{ client.nmae }}', 'There is no field “client.nmae”: write {{ client.name }} or {{ eventType.name }}'],
    ['{{ client }}', 'There is no field “client”: write {{ client.name }} or {{ eventType.name }}'],
    ['{{ client[eventType.name] }}', 'There is no field*'],
    ['{{ client.name | shout }}', 'There is no filter “shout”'],
    ['{% if %}', 'The template cannot be read: write a field as {{ client.name }}'],
    ['{{ client.name', 'The template cannot be read: write a field as {{ client.name }}'],
  ])('is refused with the reason: %s', (template, reason) => {
    expect(words(titleFault(template))).toMatch(reason.endsWith('*') ? reason.slice(0, -1) : reason)
    const rendered = renderTitle(template, { ...fields, client: { name: 'y' } })
    expect(rendered.title).toBe('y: Triage')
    expect(rendered.fault).not.toBeNull()
  })

  it.each([
    '{% if client.name == "x" %}ok{% else %}{{ nope }}{% endif %}',
    '{% if client.name == "y" %}{{ nope }}{% endif %}',
    '{% if client.name == "y" %}a{% elsif nope %}b{% endif %}',
    '{% case client.name %}{% when "y" %}{{ nope }}{% endcase %}',
    '{% unless client.name == "x" %}{{ nope }}{% endunless %}',
    '{% if client.name == "q" %}{% if client.name == "r" %}{{ nope | upcase }}{% endif %}{% endif %}',
  ])('is read in every branch: %s', (template) => {
    expect(words(titleFault(template))).toContain('There is no field “nope”')
  })

  it('that grows without end is stopped, when it is saved and when it is rendered', () => {
    const growing = `{{ client.name${' | replace: "x", "xxxxxxxxxx"'.repeat(6)} }}`
    expect(words(titleFault(growing))).toBe('The template produces too much text')
    expect(renderTitle(growing, { ...fields, client: { name: 'xx' } })).toMatchObject({
      title: 'xx: Triage',
      fault: { code: 'templateTooLarge' },
    })
  })

  it('that comes out empty or fails for one client only gives way to the preset', () => {
    expect(renderTitle('{% if client.name == "x" %}A{% endif %}', fields)).toMatchObject({
      title: 'Ana: Triage',
      fault: { code: 'templateEmpty' },
    })
    expect(renderTitle('{% if client.name == "x" %}A{% else %}{{ nope }}{% endif %}', fields)).toMatchObject({
      title: 'Ana: Triage',
      fault: { code: 'templateField', values: { name: 'nope' } },
    })
  })
})

describe('a message', () => {
  const engine = createTemplateEngine('message')
  it('loops over the lists it is given, and never over ranges or files', () => {
    expect(engine.render('{% for answer in answers %}{{ answer.label }} {% endfor %}', { answers: [{ label: 'a' }, { label: 'b' }] })).toBe(
      'a b ',
    )
    for (const template of ['{% for i in (1..9) %}x{% endfor %}', '{% include "package.json" %}', '{% assign a = 1 %}'])
      expect(words(thrown(TemplateError, () => engine.render(template, { answers: [] })).fault)).toContain('cannot be used here')
  })

  it('stops at its limits', () => {
    const many = { answers: Array.from({ length: 2000 }, () => ({ label: 'x'.repeat(100) })) }
    const nested =
      '{% for a in answers %}{% for b in answers %}{% for c in answers %}{{ c.label | append: b.label }}{% endfor %}{% endfor %}{% endfor %}'
    expect(thrown(TemplateError, () => engine.render(nested, many)).fault.code).toBe('templateTooLarge')
  })
})
