import { Fragment } from 'react'
import type { DifferingAddress } from './differing'
import classes from './PlacementRows.module.css'

/** What tells the finished address from those of the other rows; all of it on hover and for screen readers. */
export function FinalAddress({ url, address }: { url: string; address: DifferingAddress }) {
  const parts = address.parameters
  return (
    <span className={classes.address} title={url}>
      {parts.map((part, i) => (
        <Fragment key={part}>
          {i > 0 && (
            <>
              &amp;
              <wbr />
            </>
          )}
          <b>{part}</b>
        </Fragment>
      ))}
      {address.isShortened && (parts.length > 0 ? '&…' : '…')}
      {parts.length === 0 && !address.isShortened && 'nothing'}
    </span>
  )
}
