import { UnstyledButton } from '@mantine/core'
import { IconArrowDown, IconArrowUp } from '@tabler/icons-react'
import { count, counted } from '../../../parts/format/numbers'
import classes from './Compare.module.css'
import { figuresOf, number, sortOf, withoutOf } from './figures'
import { dimensions, type Breakdown, type Dimension, type Question } from '../question/question'
import { ShareCell } from './ShareCell'

interface Props {
  answer: Breakdown
  /** Holds order and columns. */
  question: Question
  /** Sorts by another figure; headings are plain where left out. */
  onSort?: (sort: string) => void
}

/** All figures of an answer, with the sum. */
export function FiguresTable({ answer, question, onSort }: Props) {
  const sort = sortOf(question.sort, question.per)
  const without = withoutOf(question)
  const shown = figuresOf(answer).filter((c) => c.key === 'clicks' || !without.includes(c.key))
  const rows = answer.rows.toSorted(
    (a, b) => (sort.isUp ? 1 : -1) * ((a[sort.by] ?? -Infinity) - (b[sort.by] ?? -Infinity)),
  )
  const greatestShare = Math.max(0, ...rows.map((row) => row.share))
  return (
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
              {onSort ? (
                <UnstyledButton
                  fz={13}
                  onClick={() => onSort(sort.by === c.key && !sort.isUp ? `-${c.key}` : c.key)}
                >
                  {c.label}
                  {sort.by === c.key &&
                    (sort.isUp ? (
                      <IconArrowUp size={12} aria-hidden />
                    ) : (
                      <IconArrowDown size={12} aria-hidden />
                    ))}
                </UnstyledButton>
              ) : (
                c.label
              )}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.key}>
            <th scope="row">{row.label}</th>
            {shown.map((c) =>
              c.key === 'share' ? (
                <ShareCell key={c.key} share={row.share} greatest={greatestShare} />
              ) : (
                <td key={c.key}>{c.show(row)}</td>
              ),
            )}
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
  )
}
