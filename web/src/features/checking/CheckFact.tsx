import { Link } from '@tanstack/react-router'
import { timeOf } from '../../parts/format/numbers'
import type { Schema } from '../../api/client'
import { toLink } from '../../parts/toLink'
import { verdicts } from './checks'

/** What the link check says of the page that a link leads to. */
export function CheckFact({ check }: { check: Schema['LinkCheckOf'] }) {
  const { label, color } = verdicts[check.verdict]
  const isOpen = check.verdict === 'not-yet'
  const isTried = check.checkedAt !== null
  return (
    <>
      <b style={{ color }}>{isOpen && isTried ? 'Not sure yet' : label}</b>
      {check.checkedAt && `, checked ${timeOf(check.checkedAt)}`}
      {check.verdict !== 'fine' && (!isOpen || isTried) && <div>{check.text}</div>}
      {check.needsCare && (
        <Link to="/needs-attention" style={toLink}>
          What you can do
        </Link>
      )}
    </>
  )
}
