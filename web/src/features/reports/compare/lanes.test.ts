import { describe, expect, it } from 'vitest'
import { laneOf, scaleOf } from './lanes'
import type { BreakdownRow } from '../question/question'

const row = {
  clicks: 120,
  low: 80,
  high: 190,
  previousClicks: 140,
  clicksPerPost: 12,
  perPostLow: 9,
  perPostHigh: 16,
} as BreakdownRow
const before = { from: '2026-10-01', to: '2026-10-28' }

describe('lanes', () => {
  it('show clicks, what to expect and the period before', () =>
    expect(laneOf(row, { per: null, before })).toEqual({
      length: 120,
      expected: { low: 80, high: 190 },
      before: 140,
    }))

  it('show clicks per post where these were asked for', () =>
    expect(laneOf(row, { per: 'post', before })).toEqual({
      length: 12,
      expected: { low: 9, high: 16 },
      before: null,
    }))

  it('have no whisker where there are too few posts', () =>
    expect(laneOf({ ...row, low: null, high: null }, { per: null, before: null }).expected).toBeNull())

  it('keep their length however far a whisker reaches', () => {
    expect(scaleOf([{ length: 100, expected: { low: 50, high: 900 }, before: null }])).toBeCloseTo(163.2)
    expect(scaleOf([{ length: 100, expected: { low: 90, high: 110 }, before: 120 }])).toBeCloseTo(122.4)
    expect(scaleOf([])).toBeCloseTo(1.02)
  })
})
