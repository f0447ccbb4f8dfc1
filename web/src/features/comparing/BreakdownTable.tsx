import { Anchor, Text, UnstyledButton } from '@mantine/core'
import { IconArrowDown, IconArrowUp } from '@tabler/icons-react'
import { useState } from 'react'
import { change, count, counted, percent } from '../../parts/numbers'
import classes from './Compare.module.css'
import {
  dimensions,
  fileAddress,
  type Asked,
  type Breakdown,
  type BreakdownRow,
  type Dimension,
} from './question'

const number = (n: number | null) =>
  n === null ? '–' : n.toLocaleString(undefined, { maximumFractionDigits: 1 })

const columns = [
  { key: 'clicks', label: 'Clicks', show: (row: BreakdownRow) => count(row.clicks) },
  { key: 'visitors', label: 'Visitors', show: (row: BreakdownRow) => number(row.visitors) },
  { key: 'share', label: 'Share', show: (row: BreakdownRow) => percent(row.share) },
  { key: 'low', label: 'At least', show: (row: BreakdownRow) => number(Math.round(row.low)) },
  { key: 'high', label: 'At most', show: (row: BreakdownRow) => number(Math.round(row.high)) },
  { key: 'placements', label: 'Placements', show: (row: BreakdownRow) => count(row.placements) },
  {
    key: 'clicksPerPlacement',
    label: 'A placement',
    show: (row: BreakdownRow) => number(row.clicksPerPlacement),
  },
  {
    key: 'clicksPerPlacementDay',
    label: 'A placement and day',
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

/** All figures of an answer, sortable, with the sum. */
export function BreakdownTable({ answer, asked }: { answer: Breakdown; asked: Asked }) {
  const [sort, setSort] = useState<{ by: Column; isUp: boolean }>({ by: 'clicks', isUp: false })
  const rows = answer.rows.toSorted(
    (a, b) => (sort.isUp ? 1 : -1) * ((a[sort.by] ?? -Infinity) - (b[sort.by] ?? -Infinity)),
  )
  const shown = columns.filter(
    (c) =>
      (answer.before || (c.key !== 'previousClicks' && c.key !== 'change')) &&
      (answer.rows.some((row) => row.visitors !== null) || c.key !== 'visitors') &&
      (answer.rows.some((row) => row.placements > 0) ||
        (c.key !== 'placements' && c.key !== 'clicksPerPlacement' && c.key !== 'clicksPerPlacementDay')),
  )
  return (
    <section className={classes.leaf} aria-label="All figures" tabIndex={0}>
      <div className={classes.crossing}>
        <h2 className={classes.heading}>All figures</h2>
        <Text size="sm">
          Take away as{' '}
          <Anchor href={fileAddress('csv', asked)} download inherit underline="always">
            CSV
          </Anchor>{' '}
          or{' '}
          <Anchor href={fileAddress('xlsx', asked)} download inherit underline="always">
            Excel
          </Anchor>
        </Text>
      </div>
      <table className={classes.table}>
        <thead>
          <tr>
            <th scope="col">{dimensions[answer.by as Dimension]}</th>
            {shown.map((c) => (
              <th
                key={c.key}
                scope="col"
                aria-sort={sort.by === c.key ? (sort.isUp ? 'ascending' : 'descending') : 'none'}
              >
                <UnstyledButton
                  fz={13}
                  onClick={() => setSort({ by: c.key, isUp: sort.by === c.key && !sort.isUp })}
                >
                  {c.label}
                  {sort.by === c.key &&
                    (sort.isUp ? (
                      <IconArrowUp size={12} aria-hidden />
                    ) : (
                      <IconArrowDown size={12} aria-hidden />
                    ))}
                </UnstyledButton>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.key}>
              <th scope="row">{row.label}</th>
              {shown.map((c) => (
                <td key={c.key}>{c.show(row)}</td>
              ))}
            </tr>
          ))}
          {answer.others && (
            <tr>
              <th scope="row">{counted(answer.others.groups, 'other')}</th>
              {shown.map((c) => (
                <td key={c.key}>
                  {c.key === 'clicks'
                    ? count(answer.others!.clicks)
                    : c.key === 'previousClicks'
                      ? number(answer.others!.previousClicks)
                      : ''}
                </td>
              ))}
            </tr>
          )}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">All</th>
            {shown.map((c) => (
              <td key={c.key}>
                {c.key === 'clicks'
                  ? count(answer.total.clicks)
                  : c.key === 'visitors'
                    ? number(answer.total.visitors)
                    : c.key === 'previousClicks'
                      ? number(answer.total.previousClicks)
                      : ''}
              </td>
            ))}
          </tr>
        </tfoot>
      </table>
    </section>
  )
}
