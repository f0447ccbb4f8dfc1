import { expect, test } from 'vitest'
import { dayOf, timeOf, writeAs } from './numbers'

test('moments are told by the workspace’s clock, wherever its members sit', () => {
  const newYear = '2019-12-31T23:30:00Z'
  writeAs('en-GB', 'Pacific/Auckland')
  expect(timeOf(newYear)).toBe('1 Jan 2020, 12:30')
  writeAs('de', 'America/New_York')
  expect(timeOf(newYear)).toBe('31 Dec 2019, 18:30')
})

test('a day of this year goes without its year', () => {
  writeAs('en-GB', 'UTC')
  expect(dayOf(`${new Date().getUTCFullYear()}-02-03T12:00:00Z`)).toBe('3 Feb')
})
