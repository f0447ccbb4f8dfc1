import { Anchor, Button, Checkbox, Popover, Stack, Text, UnstyledButton } from '@mantine/core'
import { IconArrowDown, IconArrowUp } from '@tabler/icons-react'
import { useNavigate } from '@tanstack/react-router'
import { change, count, counted, percent } from '../../parts/numbers'
import classes from './Compare.module.css'
import {
  dimensions,
  fileAddress,
  type Asked,
  type Breakdown,
  type BreakdownRow,
  type Dimension,
  type Question,
} from './question'

const number = (n: number | null) =>
  n === null ? '–' : n.toLocaleString(undefined, { maximumFractionDigits: 1 })

const columns = [
  { key: 'clicks', label: 'Clicks', show: (row: BreakdownRow) => count(row.clicks) },
  { key: 'visitors', label: 'Visitors', show: (row: BreakdownRow) => number(row.visitors) },
  { key: 'share', label: 'Share', show: (row: BreakdownRow) => percent(row.share) },
  {
    key: 'shareLow',
    label: 'Share between',
    show: (row: BreakdownRow) => `${percent(row.shareLow)} and ${percent(row.shareHigh)}`,
  },
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

interface Props {
  answer: Breakdown
  asked: Asked
  question: Question
}

/** The order that the address asks for; by clicks where it asks for none that exists. */
function sortOf(text: string | undefined): { by: Column; isUp: boolean } {
  const isUp = text?.startsWith('-') ?? false
  const by = columns.find((c) => c.key === (isUp ? text!.slice(1) : text))?.key
  return by ? { by, isUp } : { by: 'clicks', isUp: false }
}

/** Left out unless chosen. */
const usuallyWithout = 'shareLow'

/** All figures of an answer, sortable, with the sum. Order and columns are held by the address. */
export function BreakdownTable({ answer, asked, question }: Props) {
  const navigate = useNavigate()
  const change = (part: Partial<Question>) =>
    void navigate({ to: '/compare', search: { ...question, ...part }, resetScroll: false, replace: true })
  const sort = sortOf(question.sort)
  const without = (question.without ?? usuallyWithout).split(',')
  const rows = answer.rows.toSorted(
    (a, b) => (sort.isUp ? 1 : -1) * ((a[sort.by] ?? -Infinity) - (b[sort.by] ?? -Infinity)),
  )
  const possible = columns.filter(
    (c) =>
      (answer.before || (c.key !== 'previousClicks' && c.key !== 'change')) &&
      (answer.rows.some((row) => row.visitors !== null) || c.key !== 'visitors') &&
      (answer.rows.some((row) => row.placements > 0) ||
        (c.key !== 'placements' && c.key !== 'clicksPerPlacement' && c.key !== 'clicksPerPlacementDay')),
  )
  const shown = possible.filter((c) => c.key === 'clicks' || !without.includes(c.key))
  return (
    <section className={classes.leaf} aria-label="All figures" tabIndex={0}>
      <div className={classes.crossing}>
        <h2 className={classes.heading}>All figures</h2>
        <Text size="sm">
          <ColumnChoice
            possible={possible}
            without={without}
            onChoose={(chosen) =>
              change({ without: chosen === usuallyWithout ? undefined : chosen || 'none' })
            }
          />{' '}
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
                  onClick={() => change({ sort: sort.by === c.key && !sort.isUp ? `-${c.key}` : c.key })}
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

interface ColumnChoiceProps {
  possible: ReadonlyArray<(typeof columns)[number]>
  without: string[]
  onChoose: (without: string) => void
}

/** Which figures the table shows; clicks always. */
function ColumnChoice({ possible, without, onChoose }: ColumnChoiceProps) {
  return (
    <Popover position="bottom-end" trapFocus withRoles={false}>
      <Popover.Target>
        <Button variant="subtle" size="compact-sm" fw={400}>
          Columns
        </Button>
      </Popover.Target>
      <Popover.Dropdown>
        <Stack gap={8}>
          {possible
            .filter((c) => c.key !== 'clicks')
            .map((c) => (
              <Checkbox
                key={c.key}
                size="sm"
                label={c.label}
                checked={!without.includes(c.key)}
                onChange={(event) =>
                  onChoose(
                    columns
                      .map((each) => each.key)
                      .filter((key) => (key === c.key ? !event.currentTarget.checked : without.includes(key)))
                      .join(','),
                  )
                }
              />
            ))}
        </Stack>
      </Popover.Dropdown>
    </Popover>
  )
}
