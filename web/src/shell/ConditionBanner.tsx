import { IconAlertTriangle } from '@tabler/icons-react'
import { useQuery } from '@tanstack/react-query'
import { counted } from '../parts/format/numbers'
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
    return 'Can’t reach Cursus. It may have been stopped, or you may be offline. Retrying automatically.'
  if (condition && !condition.database)
    return 'The database isn’t responding. Your links still work and clicks are being kept, but nothing can be shown or saved until it is back.'
  if (condition && condition.lostClicks > 0)
    return `${counted(condition.lostClicks, 'click was', 'clicks were')} redirected but not counted, because the disk holding the click journal is full. Links still work. Free some space so that clicks are counted again.`
  if (condition && condition.damagedClicks > 0)
    return `${counted(condition.damagedClicks, 'click', 'clicks')} can’t be read because the disk holding the click journal is faulty. All others are counted. Check the disk; the damaged file is kept in the journal’s “damaged” folder.`
  return undefined
}
