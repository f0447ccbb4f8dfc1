import { describe, expect, it } from 'vitest'
import { asCsv, asHtml, asMarkdown } from './linkTexts'

describe('the link as Markdown', () => {
  it('escapes what would end its text early', () => {
    expect(asMarkdown({ title: 'Stars [free]', shortUrl: 'http://n.localhost/a' })).toBe(
      '[Stars \\[free\\]](http://n.localhost/a)',
    )
  })
})

describe('the link as HTML', () => {
  const plain = {
    passQuery: 'off',
    referrer: 'keep',
    hideFromSearch: false,
    nofollow: false,
    sponsored: false,
    newTab: false,
    titleAttribute: null,
    anchorText: null,
  } as const
  const link = { title: 'Stars & more', shortUrl: 'http://n.localhost/a' }

  it('is a plain anchor unless something else is set', () => {
    expect(asHtml({ ...link, options: plain })).toBe('<a href="http://n.localhost/a">Stars &amp; more</a>')
  })

  it('carries the relation, title, target and text that its options say', () => {
    const options = {
      ...plain,
      nofollow: true,
      sponsored: true,
      newTab: true,
      titleAttribute: 'See',
      anchorText: 'Join us',
    }
    expect(asHtml({ ...link, options })).toBe(
      '<a href="http://n.localhost/a" rel="nofollow sponsored noopener" target="_blank" title="See">Join us</a>',
    )
    expect(asMarkdown({ ...link, options })).toBe('[Join us](http://n.localhost/a)')
  })
})

describe('rows as CSV', () => {
  it('quotes what RFC 4180 asks to be quoted, and disarms formulas', () => {
    expect(
      asCsv([
        ['a', 'b, "c"'],
        ['=1+1', 'x\ny'],
      ]),
    ).toBe('a,"b, ""c"""\r\n\'=1+1,"x\ny"\r\n')
  })
})
