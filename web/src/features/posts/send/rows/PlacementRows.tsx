import { VisuallyHidden } from '@mantine/core'
import type { Channel, Domain } from '../../../../api/vocabulary'
import type { Row, PostSettings } from '../draft'
import classes from './PlacementRows.module.css'
import { differing } from './differing'
import { PlacementRow } from './PlacementRow'
import type { usePreview } from '../usePreview'

interface Props {
  rows: Row[]
  channels: Channel[]
  domains: Domain[]
  /** Settings of all rows. */
  all: PostSettings
  destination: string
  preview: ReturnType<typeof usePreview>['rows']
  domain: string
  /** What is still needed before addresses can be shown. */
  missing: string
  onChange: (id: string, part: Partial<Row>) => void
  onAddVariant: (row: Row) => void
  onRemove: (row: Row) => void
}

/** The table of the Send sheet: one row for each channel, with the finished address growing as one types. */
export function PlacementRows(props: Props) {
  const { rows, channels, preview, onChange, onAddVariant, onRemove } = props
  const byKey = new Map(channels.map((c) => [c.key, c]))
  const isRepeat = (row: Row) => rows.find((r) => r.channel === row.channel) !== row
  const finished = rows.flatMap((row) => {
    const url = row.isOn && preview.get(row.id)?.finalUrl
    return url ? [{ id: row.id, url }] : []
  })
  const shown = differing(finished.map(({ url }) => url))
  const addresses = new Map(finished.map(({ id }, i) => [id, shown[i]!]))
  const domains = new Set(rows.filter((row) => row.isOn).map((row) => row.own.domain ?? props.domain))
  const isOneDomain = domains.size <= 1
  return (
    <div className={classes.leaf}>
      <table className={classes.table}>
        <thead>
          <tr>
            <th scope="col" className={classes.tick}>
              <VisuallyHidden>Include</VisuallyHidden>
            </th>
            <th scope="col">Channel</th>
            <th scope="col">Source</th>
            <th scope="col">Medium</th>
            <th scope="col">Variant</th>
            <th scope="col">
              Short link{isOneDomain && props.domain && ` on ${[...domains][0] ?? props.domain}`}
            </th>
            <th scope="col">Added to the address</th>
            <th scope="col" className={classes.more}>
              <VisuallyHidden>Options</VisuallyHidden>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => {
            const channel = byKey.get(row.channel)
            if (!channel) return null
            return (
              <PlacementRow
                key={row.id}
                row={row}
                channel={channel}
                preview={preview.get(row.id)}
                domain={isOneDomain ? '' : (row.own.domain ?? props.domain)}
                address={addresses.get(row.id)}
                missing={props.missing}
                domains={props.domains}
                all={props.all}
                destination={props.destination}
                onChange={(part) => onChange(row.id, part)}
                onAddVariant={() => onAddVariant(row)}
                onRemove={isRepeat(row) ? () => onRemove(row) : undefined}
              />
            )
          })}
        </tbody>
      </table>
    </div>
  )
}
