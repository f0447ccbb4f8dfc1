import { afterEach, describe, expect, it, vi } from 'vitest'

// The client asks where it was loaded from.
vi.stubGlobal('location', { origin: 'http://cursus.example' })
const { fetchCode, isOutdated } = await import('./code')
const { isUnreachable, wordsOf } = await import('./client')

const failing = (message: string) =>
  fetchCode(() => Promise.reject(new TypeError(message))).catch((error: Error) => error)

describe('the code of a view', () => {
  afterEach(() => vi.unstubAllGlobals())

  // As the three engines and the bundler word it.
  it.each([
    'Failed to fetch dynamically imported module: http://cursus.example/assets/LinksPage.js',
    'error loading dynamically imported module: http://cursus.example/assets/LinksPage.js',
    'Importing a module script failed.',
    'Unable to preload CSS for http://cursus.example/assets/Sheet.css',
  ])(
    'is missing just as an answer would be where nobody answers, and old where somebody does: %s',
    async (message) => {
      vi.stubGlobal('fetch', () => Promise.reject(new TypeError('Failed to fetch')))
      const stopped = await failing(message)
      expect(isUnreachable(stopped)).toBe(true)
      expect(wordsOf(stopped)).toContain('Can’t reach Cursus')

      vi.stubGlobal('fetch', () => Promise.resolve(new Response('ready')))
      const renewed = await failing(message)
      expect(isOutdated(renewed)).toBe(true)
      expect(wordsOf(renewed)).toContain('Reload to continue')
    },
  )

  it('that fails by itself is a slip of our own', async () => {
    const slip = await failing('x is undefined')
    expect(isUnreachable(slip) || isOutdated(slip)).toBe(false)
    expect(wordsOf(slip)).toContain('Something went wrong on this page')
  })

  it('is there', async () => expect(await fetchCode(() => Promise.resolve('a view'))).toBe('a view'))
})
