import { describe, expect, it, vi } from 'vitest'

// The client asks where it was loaded from.
vi.stubGlobal('location', { origin: 'http://cursus.example' })
const { isUnreachable, Problem, wordsOf } = await import('./client')

describe('when nobody answers', () => {
  // As the three engines and the bundler word it.
  it.each([
    'Failed to fetch dynamically imported module: http://cursus.example/assets/LinksPage.js',
    'error loading dynamically imported module: http://cursus.example/assets/LinksPage.js',
    'Importing a module script failed.',
    'Unable to preload CSS for http://cursus.example/assets/Sheet.css',
  ])('the code of a view is missing just as an answer would be: %s', (message) => {
    expect(isUnreachable(new TypeError(message))).toBe(true)
    expect(wordsOf(new TypeError(message))).toContain('Cursus does not answer')
  })

  it('a slip of our own is not taken for it', () => {
    expect(isUnreachable(new TypeError('x is undefined'))).toBe(false)
    expect(isUnreachable(new Problem(422, 'invalid', 'Some fields need correcting.'))).toBe(false)
    expect(wordsOf(new TypeError('x is undefined'))).toContain('Something in this page failed')
  })
})
