import { VisuallyHidden } from '@mantine/core'
import { Link } from '@tanstack/react-router'
import { useChannelLooks, type ChannelLook } from '../../../api/vocabulary'
import { channelPaint, plainPaint } from '../../../parts/channelPaint'
import { change, count, percent } from '../../../parts/format/numbers'
import { number } from './figures'
import { laneOf, scaleOf, type LaneShape } from './lanes'
import { Signet } from '../../../parts/Signet'
import classes from './Compare.module.css'
import {
  dimensions,
  narrowedTo,
  type Breakdown,
  type BreakdownRow,
  type Dimension,
  type Question,
} from '../question/question'

const most = 12

interface Props {
  answer: Breakdown
  /** What the answer answers; only where figures open. */
  question?: Question
  /** What the groups are called together; the dimension's own name where left out. */
  name?: string
  /** The channel whose colour a lane has. */
  channelOf?: (row: BreakdownRow) => ChannelLook | undefined
  /** Where a figure leads. */
  opens?: (row: BreakdownRow) => Question | undefined
}

/** The comparing picture: one lane for each group. Bar: this period. Tick: the one before. Whisker: how sure we are. */
export function Lanes({ answer, question, name, channelOf, opens }: Props) {
  const channels = useChannelLooks()
  const shown = answer.rows.slice(0, most)
  const lanes = shown.map((row) => laneOf(row, answer))
  const scale = scaleOf(lanes)
  const isPerPost = answer.per === 'post'
  const hasBefore = answer.before !== null && !isPerPost
  const hasPosts = shown.some((row) => row.posts !== null)
  return (
    <section className={classes.leaf} aria-label="Lanes">
      <table className={classes.lanes}>
        <thead>
          <tr>
            <th scope="col">{capital(name ?? dimensions[answer.by as Dimension])}</th>
            <th scope="col">
              this period
              {hasBefore && (
                <>
                  , <i className={classes.tickKey} aria-hidden /> previous period
                </>
              )}
              {lanes.some((lane) => lane.expected) && (
                <>
                  , <i className={classes.whiskerKey} aria-hidden /> uncertainty
                </>
              )}
            </th>
            <th scope="col">{isPerPost ? 'Per post' : 'Clicks'}</th>
            <th scope="col">{isPerPost ? 'Posts' : 'Share'}</th>
            {hasPosts && <th scope="col">{isPerPost ? 'Clicks' : 'Per post'}</th>}
            {hasBefore && <th scope="col">Change</th>}
          </tr>
        </thead>
        <tbody>
          {shown.map((row, i) => (
            <Lane
              key={row.key}
              row={row}
              answer={answer}
              channel={
                channelOf?.(row) ?? (answer.by === 'channel' ? (channels.get(row.key) ?? null) : undefined)
              }
              opened={opens ? opens(row) : question && narrowedTo(question, row)}
              scale={scale}
              hasPosts={hasPosts}
              hasBefore={hasBefore}
              lane={lanes[i]!}
              isLast={i === shown.length - 1}
            />
          ))}
        </tbody>
      </table>
      {(answer.rows.length > most || answer.others !== null) && (
        <p className={classes.more}>
          {count(answer.rows.length - shown.length + (answer.others?.groups ?? 0))} more with{' '}
          {count(sum(answer.rows.slice(most)) + (answer.others?.clicks ?? 0))} clicks are in the table below.
        </p>
      )}
    </section>
  )
}

interface LaneProps {
  row: BreakdownRow
  answer: Breakdown
  /** Null where it is of a channel that isn't known. */
  channel: ChannelLook | null | undefined
  opened: Question | undefined
  scale: number
  hasPosts: boolean
  hasBefore: boolean
  lane: LaneShape
  isLast: boolean
}

function Lane({ row, lane, answer, channel, opened, scale, hasPosts, hasBefore, isLast }: LaneProps) {
  const at = (clicks: number) => `${(100 * Math.min(clicks, scale)) / scale}%`
  const isPerPost = answer.per === 'post'
  const figure = isPerPost ? number(row.clicksPerPost) : count(row.clicks)
  const color = channelPaint(channel, plainPaint)
  return (
    <tr>
      <th scope="row">
        <span className={classes.name}>
          {channel !== undefined && <Signet channel={channel ?? undefined} />}
          <span>{row.label}</span>
        </span>
      </th>
      <td className={classes.track} aria-hidden>
        <div className={classes.road}>
          <div className={classes.bar} style={{ width: at(lane.length), background: color }} />
          {lane.expected && (
            <div
              className={classes.whisker}
              data-further={lane.expected.high > scale || undefined}
              style={{
                left: at(lane.expected.low),
                width: at(Math.min(lane.expected.high, scale) - lane.expected.low),
              }}
            />
          )}
          {lane.before !== null && <div className={classes.tick} style={{ left: at(lane.before) }} />}
          {row.isTooCloseToNext && !isLast && (
            <div className={classes.bracket}>
              <span>too close to call</span>
            </div>
          )}
        </div>
      </td>
      <td className={classes.clicks}>
        {opened ? (
          <Link to="/compare" search={opened} title={`Open ${row.label}`}>
            {figure}
          </Link>
        ) : (
          figure
        )}
        {row.isTooCloseToNext && !isLast && <VisuallyHidden>, too close to the next to call</VisuallyHidden>}
      </td>
      <td>{isPerPost ? number(row.posts) : percent(row.share)}</td>
      {hasPosts && (
        <td className={classes.placement}>{isPerPost ? count(row.clicks) : number(row.clicksPerPost)}</td>
      )}
      {hasBefore && <td>{<Change row={row} />}</td>}
    </tr>
  )
}

function Change({ row }: { row: BreakdownRow }) {
  if (row.change === null) return row.clicks > 0 ? <span className={classes.up}>new</span> : '–'
  return (
    <span className={row.change > 0 ? classes.up : row.change < 0 ? classes.down : undefined}>
      {change(row.change)}
    </span>
  )
}

const sum = (rows: BreakdownRow[]) => rows.reduce((clicks, row) => clicks + row.clicks, 0)
const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1)
