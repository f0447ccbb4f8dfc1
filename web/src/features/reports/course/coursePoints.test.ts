import { expect, it } from 'vitest'
import type { Schema } from '../../../api/client'
import { pointsOf } from './coursePoints'
import type { BreakdownRow } from '../question/question'

it('puts each post on the step in which it went out, and zero where nobody clicked', () => {
  const series = {
    points: [
      { at: '2026-11-02', clicks: { perch: 4 } },
      { at: '2026-11-09', clicks: {} },
    ],
    posts: [
      { id: 'c', title: 'Later', publishedOn: '2026-11-12' },
      { id: 'b', title: 'On the day', publishedOn: '2026-11-09' },
      { id: 'a', title: 'The day before', publishedOn: '2026-11-08' },
    ],
  } as unknown as Schema['SeriesReportResponse']
  const points = pointsOf(series, [{ key: 'perch', label: 'Perch' } as BreakdownRow])
  expect(points.map((p) => [p.at, p.Perch, p.posts.map((post) => post.id)])).toEqual([
    ['2 Nov', 4, ['a']],
    ['9 Nov', 0, ['c', 'b']],
  ])
})

it('names hours by the clock, with their day where there are two, and no post that only its day is known of', () => {
  const series = (from: string) =>
    ({
      step: 'hour',
      from,
      to: '2026-11-09',
      points: [
        { at: '2026-11-09T00:00', clicks: {} },
        { at: '2026-11-09T01:00', clicks: { perch: 4 } },
      ],
      posts: [{ id: 'a', title: 'On the day', publishedOn: '2026-11-09' }],
    }) as unknown as Schema['SeriesReportResponse']
  const points = pointsOf(series('2026-11-09'), [{ key: 'perch', label: 'Perch' } as BreakdownRow])
  expect(points.map((p) => [p.at, p.Perch, p.posts])).toEqual([
    ['00:00', 0, []],
    ['01:00', 4, []],
  ])
  expect(pointsOf(series('2026-11-08'), []).map((p) => p.at)).toEqual(['9 Nov, 00:00', '9 Nov, 01:00'])
})
