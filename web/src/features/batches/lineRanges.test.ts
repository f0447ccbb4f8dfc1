import { expect, test } from 'vitest'
import { lineRanges } from './lineRanges'

test('lines in a row are told as from and to, others one by one', () => {
  expect(lineRanges([3])).toBe('3')
  expect(lineRanges([2, 3, 4, 9, 11, 12])).toBe('2–4, 9, 11–12')
  expect(lineRanges(Array.from({ length: 9999 }, (_, i) => i + 2))).toBe('2–10,000')
})

test('many single lines are cut, and it is said that there are more', () => {
  expect(lineRanges(Array.from({ length: 40 }, (_, i) => 2 * i))).toMatch(/^0, 2, .*, 22 and more$/)
})
