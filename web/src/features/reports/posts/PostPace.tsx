import { useQuery } from '@tanstack/react-query'
import { api, read, type Schema } from '../../../api/client'
import { useChannels } from '../../../api/vocabulary'
import { channelPaint } from '../../../parts/channelPaint'
import { count } from '../../../parts/format/numbers'
import { Signet } from '../../../parts/Signet'
import { Failed } from '../../../parts/States'
import classes from '../compare/Compare.module.css'
import { lasting } from './PostLifespan'
import pace from './PostPace.module.css'
import { ExportPart } from '../compare/ExportPart'

type PlacementPace = Schema['PaceReportPlacementPace']

/** Each placement of a post against the usual course of its channel, so that one of yesterday can be judged by the last ten. */
export function PostPace({ post }: { post: Schema['PostResponse'] }) {
  const channels = useChannels()
  const report = useQuery({
    queryKey: ['pace', post.id],
    queryFn: () => read(api.GET('/api/v1/posts/{id}/pace', { params: { path: { id: post.id } } })),
    refetchInterval: 60_000,
  })
  if (report.isError) return <Failed error={report.error} onRetry={() => void report.refetch()} />
  const placements = report.data?.placements.filter((p) => p.hours > 0) ?? []
  if (placements.length === 0) return null
  return (
    <section className={classes.leaf} aria-label="Pace" tabIndex={0}>
      <div className={`${classes.crossing} ${pace.head}`}>
        <h2 className={classes.heading}>Pace compared with recent posts on each channel</h2>
        <ExportPart name="pace" addressOf={(ending) => `/api/v1/posts/${post.id}/pace.${ending}`} />
      </div>
      <table className={pace.pace}>
        <thead>
          <tr>
            <th scope="col">Placement</th>
            <th scope="col" className={pace.course}>
              this one <i className={pace.own} aria-hidden />, typical <i className={pace.band} aria-hidden />
            </th>
            <th scope="col">Since publishing</th>
            <th scope="col">Clicks so far</th>
            <th scope="col">Ahead of</th>
          </tr>
        </thead>
        <tbody>
          {placements.map((p) => {
            const channel = channels.get(p.channel)
            return (
              <tr key={p.link}>
                <th scope="row">
                  <span className={classes.name}>
                    <Signet channel={channel} />
                    <span>{p.label}</span>
                  </span>
                </th>
                <td className={pace.course} aria-hidden>
                  <PaceCourse pace={p} color={channelPaint(channel)} />
                </td>
                <td>{lasting(p.hours)}</td>
                <td>{count(p.clicks)}</td>
                <td>{standing(p)}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </section>
  )
}

/** "8 of the last 10". */
export const standing = ({ ahead, others }: Pick<PlacementPace, 'ahead' | 'others'>) =>
  others === 0 ? 'no earlier posts' : `${ahead} of the last ${others}`

const width = 320
const height = 56

/** Its own course on the band in which the middle half of the others ran. */
function PaceCourse({ pace: { course, usual }, color }: { pace: PlacementPace; color: string }) {
  const last = course.at(-1)!.hours
  const until = usual.filter((u) => u.hours <= last * 1.5)
  const hours = Math.max(last, until.at(-1)?.hours ?? 0)
  const most = Math.max(1, course.at(-1)!.clicks, ...until.map((u) => u.high))
  const x = (h: number) => (width * h) / hours
  const y = (clicks: number) => height - 2 - ((height - 4) * clicks) / most
  const line = (points: ReadonlyArray<readonly [number, number]>) =>
    points.map(([h, clicks]) => `${x(h).toFixed(1)},${y(clicks).toFixed(1)}`).join(' ')
  return (
    <svg viewBox={`0 0 ${width} ${height}`} preserveAspectRatio="none" className={pace.svg}>
      {until.length > 0 && (
        <>
          <polygon
            className={pace.bandArea}
            points={`${line([[0, 0], ...until.map((u) => [u.hours, u.high] as const)])} ${line(until.toReversed().map((u) => [u.hours, u.low] as const))}`}
          />
          <polyline
            className={pace.middle}
            points={line([[0, 0], ...until.map((u) => [u.hours, u.middle] as const)])}
          />
        </>
      )}
      <polyline
        fill="none"
        stroke={color}
        strokeWidth={2.5}
        vectorEffect="non-scaling-stroke"
        points={line([[0, 0], ...course.map((c) => [c.hours, c.clicks] as const)])}
      />
    </svg>
  )
}
