import { describe, expect, it } from 'vitest'
import type { Rule } from './routes'
import { balanced, moved, newPage, shifted } from './split'

const page = (weight: number, isLocked = false) => ({ ...newPage(), weight, isLocked })
const weights = (...pages: ReturnType<typeof page>[]) => balanced(pages).map((p) => p.weight)

describe('shares of a split', () => {
  it('begin even, and add up to a hundred whatever their number', () => {
    expect(weights(page(0), page(0))).toEqual([50, 50])
    expect(weights(page(0), page(0), page(0))).toEqual([34, 33, 33])
    for (let count = 1; count <= 20; count++)
      expect(weights(...Array.from({ length: count }, () => page(0))).reduce((a, b) => a + b)).toBe(100)
  })

  it('leave locked pages what they have', () => {
    expect(weights(page(70, true), page(0), page(0))).toEqual([70, 15, 15])
    expect(weights(page(80, true), page(40, true), page(9))).toEqual([80, 40, 0])
  })
})

it('moves a rule up or down without losing any', () => {
  const rules = ['a', 'b', 'c'].map((name): Rule => ({ name }) as Rule)
  expect(moved(rules, 2, 0).map((r) => r.name)).toEqual(['c', 'a', 'b'])
  expect(moved(rules, 0, 1).map((r) => r.name)).toEqual(['b', 'a', 'c'])
})

it('moves a border as far as both pages have something to give', () => {
  const pages = balanced([newPage(), newPage(), newPage()])
  const after = (by: number) => shifted(pages, 0, by).map((page) => page.weight)
  expect(after(5)).toEqual([39, 28, 33])
  expect(after(-90)).toEqual([0, 67, 33])
  expect(after(90)).toEqual([67, 0, 33])
})
