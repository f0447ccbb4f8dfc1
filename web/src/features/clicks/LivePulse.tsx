import { useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useEffect } from 'react'
import { count, counted } from '../../parts/format/numbers'
import { useLive, watch } from './live'
import classes from './Live.module.css'

const moment = 1000

/** Always there: how many people clicked in the last ten minutes. Whatever shows a link's clicks is read anew when some arrive. */
export function LivePulse() {
  const { people, isOpen } = useLive()
  const queries = useQueryClient()
  useEffect(() => {
    const arrived = new Set<string>()
    let timer: ReturnType<typeof setTimeout> | undefined
    function refresh() {
      timer = undefined
      arrived.forEach((link) => void queries.invalidateQueries({ queryKey: ['links', 'one', link] }))
      arrived.clear()
      void queries.invalidateQueries({ queryKey: ['post'] })
    }
    const stop = watch((links) => {
      links.forEach((link) => arrived.add(link))
      timer ??= setTimeout(refresh, moment)
    })
    return () => {
      clearTimeout(timer)
      stop()
    }
  }, [queries])
  if (people === undefined) return null
  return (
    <Link
      to="/compare"
      search={{ period: 'today' }}
      className={classes.pulse}
      data-lost={!isOpen || undefined}
      aria-label={`${counted(people, 'click')} by people in the last 10 minutes${isOpen ? '' : '; the connection is lost, trying again'}`}
      title={isOpen ? 'Clicks by people in the last 10 minutes' : 'The connection is lost, trying again'}
    >
      <i aria-hidden data-still={people === 0 || undefined} />
      <b>{count(people)}</b>
      <span>in 10 min</span>
    </Link>
  )
}
