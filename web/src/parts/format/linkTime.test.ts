import { describe, expect, it } from 'vitest'
import { boundText, endOf, openingOf } from './linkTime'

describe('when a link opens and ends', () => {
  it('is told by the workspace’s clock', () => {
    expect(openingOf('2026-07-01T08:00:00Z', 'Europe/London')).toBe('2026-07-01T09:00')
    expect(endOf('2026-12-01T00:30:00Z', 'America/New_York')).toBe('2026-11-30T19:30')
    expect(openingOf(null, 'Europe/London')).toBe('')
  })

  it('is a day alone where it begins or is over at midnight', () => {
    expect(openingOf('2026-11-28T00:00:00Z', 'Europe/London')).toBe('2026-11-28')
    expect(endOf('2026-12-01T00:00:00Z', 'Europe/London')).toBe('2026-11-30')
    expect(endOf('2026-03-01T05:00:00Z', 'America/New_York')).toBe('2026-02-28')
    // Clocks go forward in the night before: the day has 23 hours.
    expect(endOf('2026-03-29T23:00:00Z', 'Europe/London')).toBe('2026-03-29')
  })

  it('is written as people write it', () => {
    const next = new Date().getUTCFullYear() + 1
    expect(boundText(`${next}-11-29T18:00`)).toBe(`29 Nov ${next}, 18:00`)
    expect(boundText(`${next - 1}-11-29`)).toBe('29 Nov')
  })
})
