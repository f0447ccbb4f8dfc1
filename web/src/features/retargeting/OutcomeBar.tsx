import { count, percent } from '../../parts/format/numbers'
import classes from './Audiences.module.css'
import { outcomes, visitsOf, type Outcomes } from './pixels'

/** What became of a pixel at all its visits, as one bar with its numbers below. */
export function OutcomeBar({ of }: { of: Outcomes }) {
  const all = visitsOf(of)
  if (all === 0) return null
  return (
    <>
      <div className={classes.bar} aria-hidden>
        {outcomes
          .filter(({ key }) => of[key] > 0)
          .map(({ key, color }) => (
            <i key={key} style={{ flexGrow: of[key], background: color }} />
          ))}
      </div>
      <ul className={classes.legend}>
        {outcomes.map(({ key, label, color }) => (
          <li key={key}>
            <i aria-hidden style={{ background: color }} />
            <b>{count(of[key])}</b> {label} <span>{percent(of[key] / all)}</span>
          </li>
        ))}
      </ul>
    </>
  )
}
