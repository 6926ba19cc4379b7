import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { markdown } from '.'

describe('descriptions', () => {
  it.each([
    ['Show us **the book**', '<p>Show us <strong>the book</strong></p>'],
    ['- what can wait\n- what cannot', '<ul>\n<li>what can wait</li>\n<li>what cannot</li>\n</ul>'],
    ['[the list](https://lists.example/a)', '<p><a href="https://lists.example/a">the list</a></p>'],
    ['<b>bold</b>', '<p>&lt;b&gt;bold&lt;/b&gt;</p>'],
    ['![a picture](https://pictures.example/a.png)', '<p>!<a href="https://pictures.example/a.png">a picture</a></p>'],
    ['[press](javascript:alert(1))', '<p>[press](javascript:alert(1))</p>'],
  ])('%j become %s', (text, html) => {
    expect(markdown(text).trim()).toBe(html)
  })

  it('hold nothing but plain elements, whatever is written', () => {
    const piece = fc.constantFrom(
      '<script>',
      '</script>',
      '<img src=x onerror=alert(1)>',
      '[a](',
      '[a]: ',
      '![',
      '](javascript:alert(1))',
      'JaVaScRiPt:',
      'data:text/html,',
      'https://a.example',
      '<https://a.example>',
      '"',
      '\'',
      '`',
      '```\n',
      '*',
      '_',
      '#',
      '> ',
      '- ',
      '1. ',
      '|',
      '&lt;',
      '&#106;avascript:',
      '\n',
      '\n\n',
      '\t',
      '    ',
      '\\',
      '\u0000',
      'text',
    )
    const plain =
      /^<\/?(?:p|strong|em|s|code|pre|h[1-6]|ul|ol|li|blockquote|hr|br|table|thead|tbody|tr|th|td)(?: (?:start|style|class)="[^"]*")?(?: \/)?>$/
    const link = /^<a href="(?!(?:javascript|vbscript|file|data):)[^"]*"(?: title="[^"]*")?>$/i
    fc.assert(fc.property(fc.array(piece, { maxLength: 14 }), (pieces) => {
      for (const [tag] of markdown(pieces.join('')).matchAll(/<[^>]*>?/g))
        expect(tag === '</a>' || plain.test(tag) || link.test(tag), tag).toBe(true)
    }), { numRuns: 4000 })
  })
})
