import { IconAlertTriangle } from '@tabler/icons-react'
import { useQuery } from '@tanstack/react-query'
import { counted } from '../parts/numbers'
import classes from './Shell.module.css'

interface Condition {
  database: boolean
  lostClicks: number
  damagedClicks: number
}

const lookEach = 15_000

/** Tells what is wrong with the house itself, and what that means for the work. */
export function ConditionBanner() {
  const condition = useQuery({
    queryKey: ['condition'],
    queryFn: async (): Promise<Condition> => (await fetch('/readyz')).json() as Promise<Condition>,
    refetchInterval: lookEach,
    retry: 1,
  })
  const words = wordsOn(condition.data, condition.isError)
  return (
    <div role="alert" className={classes.condition} hidden={!words}>
      {words && (
        <>
          <IconAlertTriangle size={18} aria-hidden />
          <span>{words}</span>
        </>
      )}
    </div>
  )
}

function wordsOn(condition: Condition | undefined, isUnreachable: boolean) {
  if (isUnreachable)
    return 'Cursus does not answer. It may have been stopped, or the network is gone. This page tries again by itself.'
  if (condition && !condition.database)
    return 'The database does not answer. Your links lead on all the same, and clicks are kept until it is back; nothing can be looked up or saved before that.'
  if (condition && condition.lostClicks > 0)
    return `${counted(condition.lostClicks, 'click was', 'clicks were')} answered and could not be written down: the disk under the click journal is full. Links lead on; make room so that clicks are counted again.`
  if (condition && condition.damagedClicks > 0)
    return `${counted(condition.damagedClicks, 'click', 'clicks')} can’t be read any more: the disk under the click journal has changed what was written. All others are counted. Check the disk; the damaged file is kept in the journal’s folder “damaged”.`
  return undefined
}
