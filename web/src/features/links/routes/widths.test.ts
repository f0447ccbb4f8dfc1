import { expect, it } from 'vitest'
import { linesOf, widthOf } from './widths'

it('draws lines as wide as the people are many, and none so thin that it can’t be seen', () => {
  expect([0, 1, 500, 1000].map((people) => widthOf(people, 1000))).toEqual([2, 2, 7, 12])
  expect(widthOf(0, 0)).toBe(2)
})

it('lets the trunk grow thinner by what each branch takes', () => {
  expect(linesOf([250, undefined, 750])).toEqual([
    { '--trunk': '12px', '--rest': '10px', '--twig': '5px' },
    { '--trunk': '10px', '--rest': '10px', '--twig': '2px' },
    { '--trunk': '10px', '--rest': '2px', '--twig': '10px' },
  ])
})
