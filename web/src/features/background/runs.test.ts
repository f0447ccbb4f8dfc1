import { expect, test } from 'vitest'
import { howOften, took } from './runs'

test('how often something runs is said in the largest whole unit', () => {
  expect([5, 60, 90, 600, 3600, 7200].map(howOften)).toEqual([
    'every 5 seconds',
    'every minute',
    'every 90 seconds',
    'every 10 minutes',
    'every hour',
    'every 2 hours',
  ])
})

test('how long a run took is said as exactly as somebody cares', () => {
  expect([0, 999, 1499, 59_400, 61_000].map(took)).toEqual(['0 ms', '999 ms', '1 s', '59 s', '1 min 1 s'])
})
