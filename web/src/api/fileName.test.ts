import { describe, expect, it } from 'vitest'
import { fileName } from './fileName'

describe('A file is named as its header says', () => {
  // The first four are the examples of RFC 6266, section 5, from memory.
  it.each([
    ['Attachment; filename=example.html', 'example.html'],
    ['INLINE; FILENAME= "an example.html"', 'an example.html'],
    [`attachment; filename*= UTF-8''%e2%82%ac%20rates`, '€ rates'],
    [`attachment; filename="EURO rates"; filename*=utf-8''%e2%82%ac%20rates`, '€ rates'],
    ['attachment; filename="clicks by channel.csv"; size=12', 'clicks by channel.csv'],
    ['inline', undefined],
  ])('%s', (header, name) => expect(fileName(header)).toBe(name))
})
