import { counted } from '../../parts/format/numbers'
import { useArrived, type Arrived } from './live'
import classes from './Live.module.css'

/** "Did it work?", answered without a reload: what has just arrived at a link, and whether it counts. */
export function LiveArrival({ link }: { link: string }) {
  const arrived = useArrived(link)
  return (
    <div role="status" className={classes.arrival}>
      {arrived && arrived.people > 0 && (
        <span>
          <b>+{arrived.people}</b> just now{from(arrived)}
        </span>
      )}
      {arrived && arrived.team > 0 && (
        <span data-uncounted>
          {arrived.team === 1 ? 'Your visit' : counted(arrived.team, 'team visit', 'team visits')}, not
          counted
        </span>
      )}
      {arrived && arrived.others > 0 && (
        <span data-uncounted>{counted(arrived.others, 'repeat or bot', 'repeats or bots')}, not counted</span>
      )}
    </div>
  )
}

/** Where the last one came from; nothing where that was a visit that doesn't count. */
function from({ team, others, device, country }: Arrived) {
  const place = [device === 'other' ? '' : device, country].filter(Boolean).join(', ')
  return team === 0 && others === 0 && place ? ` · ${place}` : ''
}
