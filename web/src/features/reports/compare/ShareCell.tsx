import { percent } from '../../../parts/format/numbers'
import classes from './Compare.module.css'

/** A share in a table's cell, with a bar below it that is as long as the cell for the greatest of the table. */
export const ShareCell = ({ share, greatest }: { share: number; greatest: number }) => (
  <td
    className={classes.share}
    style={{ '--part': share / Math.max(Number.EPSILON, greatest) } as React.CSSProperties}
  >
    {percent(share)}
  </td>
)
