import { describe, expect, it } from 'vitest'
import { alike, whole, withPart } from './split'

const sum = (parts: number[]) => parts.reduce((a, b) => a + b, 0)

describe('a split', () => {
  it.each([2, 3, 4, 6, 7, 100])('over %i variants begins as even as whole per cent can be', (variants) => {
    const parts = alike(variants)
    expect(parts).toHaveLength(variants)
    expect(sum(parts)).toBe(whole)
    expect(Math.max(...parts) - Math.min(...parts)).toBeLessThanOrEqual(1)
  })

  it('of two has one number to say: the other is what is left', () => {
    expect(withPart([50, 50], 0, 30)).toEqual([30, 70])
    expect(withPart([50, 50], 1, 30)).toEqual([70, 30])
  })

  it('of two leaves the other while a number is being typed that can be no part', () =>
    expect(withPart([30, 70], 0, 0)).toEqual([0, 70]))

  it('of three leaves the others', () => expect(withPart([34, 33, 33], 0, 50)).toEqual([50, 33, 33]))
})
