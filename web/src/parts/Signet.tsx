import type { Channel } from '../api/vocabulary'
import { channelPaint } from './channelPaint'
import classes from './Signet.module.css'

/** A channel's two letters on its colour. The name stands beside it, so the letters are for the eye only. */
export function Signet({
  channel,
}: {
  channel: (Pick<Channel, 'signet' | 'color'> & { ownColor?: string | null }) | undefined
}) {
  return (
    <span
      aria-hidden
      className={classes.signet}
      style={{
        background: channel ? channelPaint({ ownColor: null, ...channel }) : 'var(--mantine-color-dimmed)',
      }}
    >
      {channel?.signet ?? '··'}
    </span>
  )
}
