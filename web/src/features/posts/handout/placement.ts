import type { Schema } from '../../../api/client'
import type { Channel } from '../../../api/vocabulary'

export type Post = Schema['PostResponse']
export type Placement = Schema['PlacementResponse']

/** What a placement is called among those of its post. */
export const placementName = (placement: Placement, channel: Channel | undefined) =>
  [channel?.name ?? placement.channel, placement.variant].filter(Boolean).join(' · ')
