import { expect, it } from 'vitest'
import type { Schema } from '../../api/client'
import { pointsOf } from './coursePoints'
import type { BreakdownRow } from './question'

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
