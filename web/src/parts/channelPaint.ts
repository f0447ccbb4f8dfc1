import type { ChannelLook } from '../api/vocabulary'

/** The colour of bars in groups that are not channels. */
export const plainPaint = 'light-dark(#6e2a5b, #cb97ba)'

/** The colour of a channel as CSS: one of the set, or its own. White letters read on its own in the light scheme, since
 * the server sees to it; in the dark one it is mixed with white, so that dark letters read on any hue (5.6 to 1 on black).
 * `otherwise` stands for a channel that isn’t known. */
export function channelPaint(
  channel: Pick<ChannelLook, 'color' | 'ownColor'> | null | undefined,
  otherwise = 'var(--channel-8)',
): string {
  if (!channel) return otherwise
  const { color, ownColor } = channel
  return ownColor
    ? `light-dark(${ownColor}, color-mix(in oklab, ${ownColor} 35%, white))`
    : `var(--channel-${color})`
}
