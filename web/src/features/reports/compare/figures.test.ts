import { describe, expect, it } from 'vitest'
import { columns, figuresOf, sharesOf, sortOf, withoutOf } from './figures'
import type { Breakdown, BreakdownRow } from '../question/question'

const row = (part: Partial<BreakdownRow>) =>
  ({
    clicks: 10,
    visitors: null,
    placements: 0,
    posts: null,
    clicksPerPost: null,
    share: 0.4,
    shareLow: 0.3,
    shareHigh: 0.5,
    change: null,
    ...part,
  }) as BreakdownRow
const answer = (rows: BreakdownRow[], before: Breakdown['before'] = null) => ({ rows, before }) as Breakdown
const namesOf = (of: Breakdown) => figuresOf(of).map((c) => c.key)
const shown = (key: string, of: BreakdownRow) => columns.find((c) => c.key === key)!.show(of)

describe('the table of an answer', () => {
  it('is sorted by what the address says, and by clicks where that makes no sense', () => {
    expect(sortOf('share')).toEqual({ by: 'share', isUp: false })
    expect(sortOf('-visitors')).toEqual({ by: 'visitors', isUp: true })
    expect(sortOf('mood')).toEqual({ by: 'clicks', isUp: false })
    expect(sortOf(undefined)).toEqual({ by: 'clicks', isUp: false })
  })

  it('leaves the interval of shares out unless it is chosen', () => {
    expect(withoutOf({})).toEqual(['shareLow'])
    expect(withoutOf({ without: 'low,high' })).toEqual(['low', 'high'])
  })

  it('has no column that says nothing', () => {
    expect(namesOf(answer([row({})]))).toEqual(['clicks', 'share', 'shareLow', 'low', 'high'])
    expect(
      namesOf(
        answer([row({ visitors: 3, placements: 2, posts: 1 })], { from: '2026-01-01', to: '2026-01-07' }),
      ),
    ).toEqual(columns.map((c) => c.key))
  })

  it('says “new” where there was nothing before, and no per cent', () => {
    expect(shown('change', row({ change: null, clicks: 4 }))).toBe('new')
    expect(shown('change', row({ change: null, clicks: 0 }))).toBe('–')
    expect(shown('change', row({ change: -0.25 }))).toBe('−25%')
    expect(shown('shareLow', row({}))).toBe('30% and 50%')
  })
})

describe('an answer in one line', () => {
  it('names the first groups with their shares, and how many more there are', () => {
    const of = (label: string, clicks: number) => row({ label, clicks, share: clicks / 100 })
    const rows = [of('Perch', 50), of('Guildhall', 30), of('Aperta', 10), of('Search', 3), of('Not told', 5)]
    const shown = (...more: BreakdownRow[]) =>
      sharesOf({ rows: [...rows, ...more] }).replaceAll('\u00a0', ' ')
    expect(shown()).toBe('Perch 50%, Guildhall 30%, Aperta 10%, Not told 5%, 1 more')
    expect(shown(of('Mail', 2), of('Longreel', 0))).toMatch(/5%, 2 more$/)
    expect(sharesOf({ rows: [] })).toBe('')
  })
})
