import type { Breakdown, BreakdownRow } from '../question/question'

/** What is drawn of a row: how long its bar is, between which its whisker reaches, where its tick stands. */
export interface LaneShape {
  length: number
  /** Null where too few posts are known to say what to expect. */
  expected: { low: number; high: number } | null
  /** Null where there is nothing to compare with. */
  before: number | null
}

/** A whisker that reaches further than this beyond the longest bar is cut off, lest it leave no room for bars. */
const mostBeyond = 1.6

const bounds = (low: number | null, high: number | null) =>
  low === null || high === null ? null : { low, high }

export const laneOf = (row: BreakdownRow, { per, before }: Pick<Breakdown, 'per' | 'before'>): LaneShape =>
  per === 'post'
    ? { length: row.clicksPerPost ?? 0, expected: bounds(row.perPostLow, row.perPostHigh), before: null }
    : { length: row.clicks, expected: bounds(row.low, row.high), before: before && row.previousClicks }

/** How many clicks the whole width stands for. */
export function scaleOf(lanes: LaneShape[]) {
  const longest = Math.max(0, ...lanes.map((lane) => Math.max(lane.length, lane.before ?? 0)))
  const furthest = Math.max(longest, ...lanes.map((lane) => lane.expected?.high ?? 0))
  return 1.02 * Math.max(1, Math.min(mostBeyond * longest, furthest))
}
