import type { Session } from '../access/session'

/** Other workspaces of the person whose name has all that was typed, for the address bar. */
export function workspacesLike(typed: string, session: Session | undefined) {
  const words = typed.trim().toLowerCase()
  if (!session || words === '') return []
  return session.workspaces.filter(
    ({ key, name, isArchived }) =>
      key !== session.workspaceKey && !isArchived && name.toLowerCase().includes(words),
  )
}
