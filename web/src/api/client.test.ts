import { describe, expect, it, vi } from 'vitest'

// The client asks where it was loaded from.
vi.stubGlobal('location', { origin: 'http://cursus.example' })
const { isUnreachable, Problem, wordsOf } = await import('./client')

describe('when nobody answers', () => {
  it('a slip of our own is not taken for it', () => {
    expect(isUnreachable(new TypeError('x is undefined'))).toBe(false)
    expect(isUnreachable(new Problem(422, 'invalid', 'Some fields need correcting.'))).toBe(false)
    expect(wordsOf(new TypeError('x is undefined'))).toContain('Something went wrong on this page')
  })
})
