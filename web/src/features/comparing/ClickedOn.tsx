import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { count, counted, percent } from '../../parts/numbers'
import { Failed, Loading } from '../../parts/States'
import classes from './Compare.module.css'
import type { Asked, Question } from './question'
import { breakdownOf } from './reports'

interface Props {
  asked: Asked
  /** The same without what it is asked by. */
  question: Question
}

/** Where links were clicked in truth, and how many clicks wandered away from the channel that their link was made for. */
export function ClickedOn({ asked, question }: Props) {
  const of = (by: string) => ({ ...asked, by, compare: 'none' })
  const networks = useQuery(breakdownOf(of('network')))
  const roads = useQuery(breakdownOf(of('wandered')))
  const error = networks.error ?? roads.error
  if (error) return <Failed error={error} />
  if (!networks.data || !roads.data) return <Loading rows={2} />
  const told = networks.data.rows.filter((row) => row.key !== '' && row.clicks > 0)
  const wandered = roads.data.rows.find((row) => row.key === 'wandered')?.clicks ?? 0
  const stayed = roads.data.rows.find((row) => row.key === 'stayed')?.clicks ?? 0
  return (
    <section className={classes.leaf} aria-label="Where it was clicked">
      <h2 className={classes.heading}>Where it was clicked</h2>
      {told.length === 0 ? (
        <p>No click says where it came from.</p>
      ) : (
        <p>
          {told.slice(0, 6).map((row, i) => (
            <span key={row.key}>
              {i > 0 && ', '}
              {row.label} {percent(row.share)}
            </span>
          ))}
          {told.length > 6 && `, ${told.length - 6} more`}.{' '}
          {wandered + stayed > 0 &&
            (wandered === 0
              ? 'No clicks came from other channels.'
              : `${counted(wandered, 'click')} of ${count(wandered + stayed)} with a known channel came from another channel.`)}{' '}
          <Link
            to="/compare"
            search={{ ...question, by: 'network', across: 'channel', compare: 'none' }}
            className={classes.onward}
          >
            Where links were shared
          </Link>
        </p>
      )}
    </section>
  )
}
