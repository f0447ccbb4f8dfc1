import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, read, type Schema } from '../../../api/client'
import { useChannels } from '../../../api/vocabulary'
import { channelPaint, plainPaint } from '../../../parts/channelPaint'
import { count, day, percent } from '../../../parts/format/numbers'
import { Signet } from '../../../parts/Signet'
import { Failed, Loading } from '../../../parts/States'
import classes from '../compare/Compare.module.css'
import lives from './PostLifespan.module.css'
import { dimensions, type Asked, type Dimension, partAddress } from '../question/question'
import { ExportPart } from '../compare/ExportPart'

type Life = Schema['LifeReportRow']

const marks = [
  [1, '1 hour'],
  [6, '6 hours'],
  [24, '1 day'],
  [72, '3 days'],
  [168, '1 week'],
  [720, '1 month'],
  [2160, '3 months'],
] as const

/** Hours on a road on which the first day takes as much room as the weeks after it. */
export const placeOf = (hours: number) => Math.min(1, Math.log1p(hours) / Math.log1p(2160))

/** Whole hours up to two days, then whole days. */
export const lasting = (hours: number) => {
  const [n, unit] = hours <= 48 ? [Math.max(1, Math.ceil(hours)), 'hour'] : [Math.ceil(hours / 24), 'day']
  return `${n} ${unit}${n === 1 ? '' : 's'}`
}

/** How long posts live: the time in which half, and nine tenths, of their clicks come. */
export function PostLifespan({ asked }: { asked: Asked }) {
  const query = { ...asked, compare: 'none' }
  const life = useQuery({
    queryKey: ['life', query],
    queryFn: () => read(api.GET('/api/v1/reports/life', { params: { query } })),
    placeholderData: keepPreviousData,
  })
  return (
    <section className={classes.leaf} aria-label="Post lifespan" tabIndex={0}>
      <div className={classes.crossing}>
        <h2 className={classes.heading}>Post lifespan</h2>
        <ExportPart name="post lifespan" addressOf={partAddress('life', 'life', query)} />
      </div>
      {life.isError ? (
        <Failed error={life.error} onRetry={() => void life.refetch()} />
      ) : !life.data ? (
        <Loading rows={5} />
      ) : (
        <>
          <p className={lives.answer}>{life.data.answer}</p>
          {life.data.rows.length > 0 && <Roads by={asked.by as Dimension} rows={life.data.rows} />}
          <p className={classes.more}>
            Posts published from {day(life.data.from)} to {day(life.data.to)}, counted from the hour each was
            published. Posts that are still active count for the hours so far. Once 90% of a post’s clicks are
            in, it’s time for the next one.
          </p>
        </>
      )}
    </section>
  )
}

function Roads({ by, rows }: { by: Dimension; rows: Life[] }) {
  const channels = useChannels()
  return (
    <table className={lives.lives}>
      <thead>
        <tr>
          <th scope="col">{dimensions[by]}</th>
          <th scope="col" className={lives.road}>
            <span className={lives.marks} aria-hidden>
              {marks.map(([hours, words]) => (
                <i key={hours} style={{ left: `${100 * placeOf(hours)}%` }}>
                  {words}
                </i>
              ))}
            </span>
          </th>
          <th scope="col">Half of clicks within</th>
          <th scope="col">90% of clicks within</th>
          <th scope="col">Placements</th>
          <th scope="col">Still active</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => {
          const channel = by === 'channel' ? channels.get(row.key) : undefined
          const color = channelPaint(channel, plainPaint)
          return (
            <tr key={row.key}>
              <th scope="row">
                <span className={classes.name}>
                  {by === 'channel' && <Signet channel={channel} />}
                  <span>{row.label}</span>
                </span>
              </th>
              <td className={lives.road} aria-hidden>
                {row.halfHours !== null && row.mostHours !== null && (
                  <span
                    className={lives.track}
                    title={row.arrived
                      .filter((a) => [1, 6, 24, 72, 168].includes(a.hours))
                      .map((a) => `${percent(a.share)} within ${lasting(a.hours)}`)
                      .join(', ')}
                  >
                    <i
                      style={{ width: `${100 * placeOf(row.mostHours)}%`, background: color, opacity: 0.35 }}
                    />
                    <i style={{ width: `${100 * placeOf(row.halfHours)}%`, background: color }} />
                  </span>
                )}
              </td>
              <td>{row.halfHours === null ? 'too few' : lasting(row.halfHours)}</td>
              <td>{row.mostHours === null ? 'too few' : lasting(row.mostHours)}</td>
              <td>{count(row.placements)}</td>
              <td>{row.running > 0 ? count(row.running) : '–'}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
