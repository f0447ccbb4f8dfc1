import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Link, useNavigate } from '@tanstack/react-router'
import { later } from '../../../parts/later'
import { count } from '../../../parts/format/numbers'
import { Failed, Loading } from '../../../parts/States'
import compare from '../compare/Compare.module.css'
import classes from './Countries.module.css'
import {
  narrowedTo,
  type Asked,
  type Breakdown,
  type BreakdownRow,
  type Question,
  partAddress,
} from '../question/question'
import { breakdownOf } from '../reports'
import { ShareCell } from '../compare/ShareCell'
import { ExportPart } from '../compare/ExportPart'

const CountryMap = later(
  'CountryMap',
  () => import('./CountryMap').then((m) => m.CountryMap),
  <Loading rows={5} />,
)

const most = 8

interface Props {
  question: Question
  asked: Asked
}

/** From where people clicked: a small map and the countries with the most clicks, each of which opens. */
export function Countries({ question, asked }: Props) {
  const byCountry = { ...asked, by: 'country', compare: 'none' }
  const answer = useQuery({
    ...breakdownOf(byCountry),
    placeholderData: keepPreviousData,
  })
  return (
    <section className={compare.leaf} aria-label="Countries" tabIndex={0}>
      <div className={compare.crossing}>
        <h2 className={compare.heading}>Where visitors are</h2>
        <ExportPart name="where people are" addressOf={partAddress('map', 'breakdown', byCountry)} />
      </div>
      {answer.isError ? (
        <Failed error={answer.error} onRetry={() => void answer.refetch()} />
      ) : answer.data ? (
        <div className={classes.beside}>
          <MapOf answer={answer.data} question={question} />
          <MostClicked rows={answer.data.rows.filter((row) => row.clicks > 0)} question={question} />
        </div>
      ) : (
        <Loading rows={6} />
      )}
    </section>
  )
}

/** The map of an answer by country. Its countries open where there is a question to narrow. */
export function MapOf({ answer, question }: { answer: Breakdown; question?: Question }) {
  const navigate = useNavigate()
  const open = (country: BreakdownRow) =>
    void navigate({ to: '/compare', search: from(question!, country), resetScroll: false })
  return (
    <div className={classes.mapRoom}>
      <CountryMap rows={answer.rows} onOpen={question && open} />
    </div>
  )
}

function MostClicked({ rows, question }: { rows: BreakdownRow[]; question: Question }) {
  if (rows.length === 0) return <p>No clicks in this period.</p>
  return (
    <table className={compare.table}>
      <thead>
        <tr>
          <th scope="col">country</th>
          <th scope="col">Clicks</th>
          <th scope="col">Share</th>
        </tr>
      </thead>
      <tbody>
        {rows.slice(0, most).map((row) => (
          <tr key={row.key}>
            <th scope="row">
              {row.key === '' ? (
                row.label
              ) : (
                <Link to="/compare" search={from(question, row)} className={compare.onward}>
                  {row.label}
                </Link>
              )}
            </th>
            <td>{count(row.clicks)}</td>
            <ShareCell share={row.share} greatest={rows[0]!.share} />
          </tr>
        ))}
      </tbody>
      {rows.length > most && (
        <tfoot>
          <tr>
            <th scope="row">
              <Link
                to="/compare"
                search={{ ...question, by: 'country', across: undefined, sort: undefined }}
                className={compare.onward}
              >
                All countries
              </Link>
            </th>
          </tr>
        </tfoot>
      )}
    </table>
  )
}

/** The same question about the clicks of one country. */
const from = (question: Question, country: BreakdownRow): Question =>
  (question.by === 'country' && narrowedTo(question, country)) || { ...question, country: country.key }
