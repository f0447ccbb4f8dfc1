import { IconArchive } from '@tabler/icons-react'
import { useSession } from '../features/access/session'
import { dayOf } from '../parts/format/numbers'
import classes from './Shell.module.css'

/** Says in an archived workspace why nothing in it can be changed. */
export function ArchivedBanner() {
  const session = useSession()
  if (!session?.archivedAt) return null
  const end = session.deleteAt ? ` and will be deleted on ${dayOf(session.deleteAt)}` : ''
  return (
    <div role="status" className={classes.condition}>
      <IconArchive size={18} aria-hidden />
      <span>
        {session.workspace} is archived{end}. Its links still work, but nothing can be changed. Owners can
        restore it in Settings, under Workspace.
      </span>
    </div>
  )
}
