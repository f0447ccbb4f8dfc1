import { VisuallyHidden } from '@mantine/core'
import { Link } from '@tanstack/react-router'
import { useChannelLooks, type ChannelLook } from '../../api/vocabulary'
import { change, count, percent } from '../../parts/numbers'
import { Signet } from '../../parts/Signet'
import classes from './Compare.module.css'
import {
  dimensions,
  narrowedTo,
  type Breakdown,
  type BreakdownRow,
  type Dimension,
  type Question,
} from './question'

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
  const scale = 1.02 * Math.max(1, ...shown.map((row) => Math.max(row.high, row.previousClicks ?? 0)))
  const hasBefore = answer.before !== null
  const hasPlacements = answer.by !== 'placement' && shown.some((row) => row.placements > 0)
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
                  , <i className={classes.tickKey} aria-hidden /> the one before
                </>
              )}
              , <i className={classes.whiskerKey} aria-hidden /> how sure
            </th>
            <th scope="col">Clicks</th>
            <th scope="col">Share</th>
            {hasPlacements && <th scope="col">A placement</th>}
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
              hasPlacements={hasPlacements}
              isLast={i === shown.length - 1}
            />
          ))}
        </tbody>
      </table>
      {(answer.rows.length > most || answer.others !== null) && (
        <p className={classes.more}>
          {count(answer.rows.length - shown.length + (answer.others?.groups ?? 0))} more with{' '}
          {count(sum(answer.rows.slice(most)) + (answer.others?.clicks ?? 0))} clicks stand in the table
          below.
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
  hasPlacements: boolean
  isLast: boolean
}

function Lane({ row, answer, channel, opened, scale, hasPlacements, isLast }: LaneProps) {
  const at = (clicks: number) => `${(100 * clicks) / scale}%`
  const color = channel ? `var(--channel-${channel.color})` : 'light-dark(#6e2a5b, #cb97ba)'
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
          <div className={classes.bar} style={{ width: at(row.clicks), background: color }} />
          {row.clicks > 0 && (
            <div className={classes.whisker} style={{ left: at(row.low), width: at(row.high - row.low) }} />
          )}
          {row.previousClicks !== null && (
            <div className={classes.tick} style={{ left: at(row.previousClicks) }} />
          )}
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
            {count(row.clicks)}
          </Link>
        ) : (
          count(row.clicks)
        )}
        {row.isTooCloseToNext && !isLast && <VisuallyHidden>, too close to the next to call</VisuallyHidden>}
      </td>
      <td>{percent(row.share)}</td>
      {hasPlacements && (
        <td className={classes.placement}>
          {row.clicksPerPlacement === null
            ? '–'
            : row.clicksPerPlacement.toLocaleString(undefined, { maximumFractionDigits: 1 })}
        </td>
      )}
      {answer.before !== null && <td>{<Change row={row} />}</td>}
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
