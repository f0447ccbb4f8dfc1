import { IconArchive, IconLock } from '@tabler/icons-react'
import { useSession, type Session } from '../features/access/session'
import { dayOf } from '../parts/format/numbers'
import classes from './Shell.module.css'

/** Says why the workspace can’t be worked in: it is archived, or asks for two-step sign-in that isn’t set up yet. */
export function WorkspaceBanner() {
  const session = useSession()
  const words = session && wordsOn(session)
  if (!words) return null
  const Icon = session.needsTwoSteps ? IconLock : IconArchive
  return (
    <div role="status" className={classes.condition}>
      <Icon size={18} aria-hidden />
      <span>{words}</span>
    </div>
  )
}

function wordsOn({ workspace, needsTwoSteps, archivedAt, deleteAt }: Session) {
  if (needsTwoSteps)
    return `${workspace} asks for two-step sign-in. Set up a passkey or an authenticator app to go on.`
  if (!archivedAt) return undefined
  const end = deleteAt ? ` and will be deleted on ${dayOf(deleteAt)}` : ''
  return `${workspace} is archived${end}. Its links still work, but nothing can be changed. Owners can restore it in Settings, under Workspace.`
}
