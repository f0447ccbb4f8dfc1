import type { Channel, Domain } from '../../../../api/vocabulary'
import type { PostSettings, Row } from '../draft'
import type { RowPreview } from '../usePreview'
import type { DifferingAddress } from './differing'

/** What a row of the Send sheet is shown from, and what it can change. */
export interface RowProps {
  row: Row
  channel: Channel
  preview: RowPreview | undefined
  /** Shown before the slug; empty where all rows have the same. */
  domain: string
  /** What is still needed before the address can be shown. */
  missing: string
  address: DifferingAddress | undefined
  domains: Domain[]
  all: PostSettings
  /** The page of the post, as typed. */
  destination: string
  onChange: (part: Partial<Row>) => void
  onAddVariant: () => void
  onRemove?: () => void
}
