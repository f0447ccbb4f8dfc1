import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { count } from '../../../parts/format/numbers'
import { Failed, Loading } from '../../../parts/States'
import classes from '../compare/Compare.module.css'
import { partAddress, type Asked } from '../question/question'
import { weekHours, weekHoursOf } from '../reports'
import type { Pivot } from './ShadedTable'
import { ShadedTable } from './ShadedTable'
import { ExportPart } from '../compare/ExportPart'

/** On which weekdays and at which hours people click. */
export function WeekHours({ asked }: { asked: Asked }) {
  const pivot = useQuery({
    ...weekHoursOf(asked),
    placeholderData: keepPreviousData,
  })
  return (
    <section className={classes.leaf} aria-label="Weekdays and hours" tabIndex={0}>
      <div className={classes.crossing}>
        <h2 className={classes.heading}>When people click</h2>
        <ExportPart name="weekdays and hours" addressOf={partAddress('pivot', 'pivot', weekHours(asked))} />
      </div>
      {pivot.isError ? (
        <Failed error={pivot.error} onRetry={() => void pivot.refetch()} />
      ) : pivot.data ? (
        <ShadedTable
          pivot={pivot.data}
          caption={bestOf(pivot.data)}
          columnName={(label) => label.slice(0, 2)}
          hasSums={false}
        />
      ) : (
        <Loading rows={7} />
      )}
    </section>
  )
}

/** The hour of the week with the most clicks, in words. */
export function bestOf(pivot: Pivot): string {
  const most = Math.max(0, ...pivot.cells.flat())
  if (most === 0) return 'No clicks in this period.'
  const row = pivot.cells.findIndex((cells) => cells.includes(most))
  const column = pivot.cells[row]!.indexOf(most)
  return `Most came on ${pivot.rows[row]!.label}s from ${pivot.columns[column]!.label}: ${count(most)} of ${count(pivot.total)}. Hours of ${pivot.timeZone}.`
}
