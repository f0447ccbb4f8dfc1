import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { count, counted, percent } from '../../../parts/format/numbers'
import { Failed, Loading } from '../../../parts/States'
import classes from '../compare/Compare.module.css'
import type { Asked, Question } from '../question/question'
import { breakdownOf } from '../reports'

interface Props {
  asked: Asked
  /** The same without what it is asked by. */
  question: Question
}

/** The networks links were clicked on, and how many clicks came from another channel than the link's own. */
export function ClickedOn({ asked, question }: Props) {
  const of = (by: string) => ({ ...asked, by, compare: 'none' })
  const networks = useQuery(breakdownOf(of('network')))
  const origins = useQuery(breakdownOf(of('elsewhere')))
  const error = networks.error ?? origins.error
  if (error) return <Failed error={error} />
  if (!networks.data || !origins.data) return <Loading rows={2} />
  const told = networks.data.rows.filter((row) => row.key !== '' && row.clicks > 0)
  const elsewhere = origins.data.rows.find((row) => row.key === 'elsewhere')?.clicks ?? 0
  const own = origins.data.rows.find((row) => row.key === 'own-channel')?.clicks ?? 0
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
          {elsewhere + own > 0 &&
            (elsewhere === 0
              ? 'No clicks came from other channels.'
              : `${counted(elsewhere, 'click')} of ${count(elsewhere + own)} with a known channel came from another channel.`)}{' '}
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
