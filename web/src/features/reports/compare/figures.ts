import { change, count, number as written, percent } from '../../../parts/format/numbers'
import type { Breakdown, BreakdownRow, Question } from '../question/question'

/** A figure that may be none. */
export const number = (n: number | null) => (n === null ? '–' : written(n, { maximumFractionDigits: 1 }))

const whole = (n: number | null) => number(n === null ? null : Math.round(n))

/** The figures of a table, in their order. */
export const columns = [
  { key: 'clicks', label: 'Clicks', show: (row: BreakdownRow) => count(row.clicks) },
  { key: 'visitors', label: 'Visitors', show: (row: BreakdownRow) => number(row.visitors) },
  { key: 'share', label: 'Share', show: (row: BreakdownRow) => percent(row.share) },
  {
    key: 'shareLow',
    label: 'Share between',
    show: (row: BreakdownRow) =>
      row.shareLow === null || row.shareHigh === null
        ? '–'
        : `${percent(row.shareLow)} and ${percent(row.shareHigh)}`,
  },
  { key: 'low', label: 'At least', show: (row: BreakdownRow) => whole(row.low) },
  { key: 'high', label: 'At most', show: (row: BreakdownRow) => whole(row.high) },
  { key: 'posts', label: 'Posts', show: (row: BreakdownRow) => number(row.posts) },
  { key: 'clicksPerPost', label: 'Per post', show: (row: BreakdownRow) => number(row.clicksPerPost) },
  { key: 'placements', label: 'Placements', show: (row: BreakdownRow) => count(row.placements) },
  {
    key: 'clicksPerPlacement',
    label: 'Per placement',
    show: (row: BreakdownRow) => number(row.clicksPerPlacement),
  },
  {
    key: 'clicksPerPlacementDay',
    label: 'Per placement and day',
    show: (row: BreakdownRow) => number(row.clicksPerPlacementDay),
  },
  { key: 'previousClicks', label: 'Before', show: (row: BreakdownRow) => number(row.previousClicks) },
  {
    key: 'change',
    label: 'Change',
    show: (row: BreakdownRow) => (row.change === null ? (row.clicks > 0 ? 'new' : '–') : change(row.change)),
  },
] as const

type Column = (typeof columns)[number]['key']

export type Figure = (typeof columns)[number]

/** The order that the address asks for; by what the question asks for where it asks for none that exists. */
export function sortOf(text: string | undefined, per?: Question['per']): { by: Column; isUp: boolean } {
  const isUp = text?.startsWith('-') ?? false
  const by = columns.find((c) => c.key === (isUp ? text!.slice(1) : text))?.key
  return by ? { by, isUp } : { by: per ? 'clicksPerPost' : 'clicks', isUp: false }
}

/** Left out unless chosen. */
export const usuallyWithout = 'shareLow'

/** The names of the figures that a table leaves out. */
export const withoutOf = (question: Question) => (question.without ?? usuallyWithout).split(',')

/** The figures that an answer has. */
export const figuresOf = (answer: Breakdown): Figure[] =>
  columns.filter(
    (c) =>
      (answer.before || (c.key !== 'previousClicks' && c.key !== 'change')) &&
      (answer.rows.some((row) => row.visitors !== null) || c.key !== 'visitors') &&
      (answer.rows.some((row) => row.posts !== null) || (c.key !== 'posts' && c.key !== 'clicksPerPost')) &&
      (answer.rows.some((row) => row.placements > 0) ||
        (c.key !== 'placements' && c.key !== 'clicksPerPlacement' && c.key !== 'clicksPerPlacementDay')),
  )

const mostNamed = 4

/** The first groups with their shares, in one line: "Perch 61 %, Guildhall 12 %, 3 more". */
export function sharesOf({ rows }: Pick<Breakdown, 'rows'>) {
  const clicked = rows.filter((row) => row.clicks > 0).toSorted((a, b) => b.clicks - a.clicks)
  const first = clicked.slice(0, mostNamed).map((row) => `${row.label} ${percent(row.share)}`)
  return [...first, ...(clicked.length > mostNamed ? [`${clicked.length - mostNamed} more`] : [])].join(', ')
}
