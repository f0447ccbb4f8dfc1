import { useNavigate } from '@tanstack/react-router'
import { ColumnChoice } from './ColumnChoice'
import classes from './Compare.module.css'
import { figuresOf, usuallyWithout, withoutOf } from './figures'
import { FiguresTable } from './FiguresTable'
import type { Breakdown, Question } from '../question/question'

interface Props {
  answer: Breakdown
  question: Question
}

/** The table of an answer: sortable, its columns chosen. Order and columns are held by the address. */
export function BreakdownTable({ answer, question }: Props) {
  const navigate = useNavigate()
  const show = (part: Partial<Question>) =>
    void navigate({ to: '/compare', search: { ...question, ...part }, resetScroll: false, replace: true })
  return (
    <section className={classes.leaf} aria-label="All figures" tabIndex={0}>
      <div className={classes.crossing}>
        <h2 className={classes.heading}>All figures</h2>
        <ColumnChoice
          possible={figuresOf(answer)}
          without={withoutOf(question)}
          onChoose={(chosen) => show({ without: chosen === usuallyWithout ? undefined : chosen || 'none' })}
        />
      </div>
      <FiguresTable answer={answer} question={question} onSort={(sort) => show({ sort })} />
    </section>
  )
}
