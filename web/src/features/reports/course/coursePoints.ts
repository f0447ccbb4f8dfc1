import type { Schema } from '../../../api/client'
import { day } from '../../../parts/format/numbers'
import type { BreakdownRow } from '../question/question'

type Series = Schema['SeriesReportResponse']
type PublishedPost = Schema['SeriesReportPublishedPost']

/** One step of the course: clicks by the groups' labels, and the posts that went out in it. */
export type CoursePoint = { at: string; posts: PublishedPost[] } & Record<string, unknown>

/**
 * The course as a chart reads it. A post belongs to the last step that begins on its day or before; to none where
 * steps are hours, since only its day is known.
 */
export function pointsOf(series: Series, shown: BreakdownRow[]): CoursePoint[] {
  const isOneDay = series.from === series.to
  return series.points.map((point, i) => {
    const next = series.points[i + 1]?.at
    const [date, clock] = point.at.split('T') as [string, string?]
    const began = day(date).replace(/ \d{4}$/, '')
    return {
      ...Object.fromEntries(shown.map((row) => [row.label, point.clicks[row.key] ?? 0])),
      at: clock ? (isOneDay ? clock : `${began}, ${clock}`) : began,
      posts: clock
        ? []
        : series.posts.filter((p) => p.publishedOn >= point.at && (!next || p.publishedOn < next)),
    }
  })
}
