import { useMemo, type ReactNode } from 'react'
import type { Schema } from '../../../api/client'
import { count, number } from '../../../parts/format/numbers'
import { depthOf } from '../compare/depth'
import classes from './ShadedTable.module.css'

export type Pivot = Schema['PivotReportResponse']

const brief = (n: number) => number(n, { notation: 'compact', maximumFractionDigits: 1 })

interface Props {
  pivot: Pivot
  caption: string
  /** What a row or column is called; its own label where left out. */
  columnName?: (label: string) => string
  rowName?: (key: string | null, label: string) => ReactNode
  hasSums?: boolean
}

/** Clicks by two dimensions: a table whose cells are the darker the more clicks they have. */
export function ShadedTable({
  pivot,
  caption,
  columnName = (label) => label,
  rowName = (_, label) => label,
  hasSums = true,
}: Props) {
  const most = useMemo(() => Math.max(0, ...pivot.cells.flat()), [pivot])
  return (
    <table className={classes.table} data-narrow={!hasSums || undefined}>
      <caption>
        <span>{caption}</span>
      </caption>
      <thead>
        <tr>
          <td />
          {pivot.columns.map((column) => (
            <th key={column.key ?? 'others'} scope="col" title={column.label}>
              {columnName(column.label)}
            </th>
          ))}
          {hasSums && <th scope="col">All</th>}
        </tr>
      </thead>
      <tbody>
        {pivot.rows.map((row, r) => (
          <tr key={row.key ?? 'others'}>
            <th scope="row">{rowName(row.key, row.label)}</th>
            {pivot.cells[r]!.map((clicks, c) => (
              <td
                key={pivot.columns[c]!.key ?? 'others'}
                title={`${row.label}, ${pivot.columns[c]!.label}: ${count(clicks)}`}
                style={{ '--depth': depthOf(clicks, most) } as React.CSSProperties}
              >
                {clicks === 0 ? '·' : brief(clicks)}
              </td>
            ))}
            {hasSums && <td className={classes.sum}>{count(row.clicks)}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  )
}
