import { Anchor, Text } from '@mantine/core'
import { useNavigate } from '@tanstack/react-router'
import { ColumnChoice } from './ColumnChoice'
import classes from './Compare.module.css'
import { figuresOf, usuallyWithout, withoutOf } from './figures'
import { FiguresTable } from './FiguresTable'
import { fileAddress, type Asked, type Breakdown, type Question } from './question'

interface Props {
  answer: Breakdown
  asked: Asked
  question: Question
}

/** The table of an answer: sortable, its columns chosen, to be taken away. Order and columns are held by the address. */
export function BreakdownTable({ answer, asked, question }: Props) {
  const navigate = useNavigate()
  const show = (part: Partial<Question>) =>
    void navigate({ to: '/compare', search: { ...question, ...part }, resetScroll: false, replace: true })
  return (
    <section className={classes.leaf} aria-label="All figures" tabIndex={0}>
      <div className={classes.crossing}>
        <h2 className={classes.heading}>All figures</h2>
        <Text size="sm">
          <ColumnChoice
            possible={figuresOf(answer)}
            without={withoutOf(question)}
            onChoose={(chosen) => show({ without: chosen === usuallyWithout ? undefined : chosen || 'none' })}
          />{' '}
          Take away as{' '}
          <Anchor href={fileAddress('breakdown.csv', asked)} download inherit underline="always">
            CSV
          </Anchor>{' '}
          or{' '}
          <Anchor href={fileAddress('breakdown.xlsx', asked)} download inherit underline="always">
            Excel
          </Anchor>
          , or the single clicks as{' '}
          <Anchor
            href={fileAddress('clicks.csv', asked)}
            aria-label="Single clicks as CSV"
            download
            inherit
            underline="always"
          >
            CSV
          </Anchor>{' '}
          or{' '}
          <Anchor
            href={fileAddress('clicks.ndjson', asked)}
            aria-label="Single clicks as NDJSON"
            download
            inherit
            underline="always"
          >
            NDJSON
          </Anchor>
        </Text>
      </div>
      <FiguresTable answer={answer} question={question} onSort={(sort) => show({ sort })} />
    </section>
  )
}
