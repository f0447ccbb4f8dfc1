import { queryOptions, useQuery } from '@tanstack/react-query'
import { base, baseOf } from '../../api/address'
import { api, apiBelow, read, rememberCsrfToken, type Schema } from '../../api/client'
import { writeAs } from '../../parts/format/numbers'

export type Session = Schema['SessionResponse']

/** Who is signed in. Fails with status 401 where nobody is. */
export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async () => {
    const session = await read(api.GET('/api/v1/session'))
    rememberCsrfToken(session.csrfToken)
    writeAs(session.numberLanguage, session.timeZone)
    return session
  },
  retry: false,
  staleTime: 5 * 60_000,
})

/** The session inside views that only members see. */
export function useSession(): Session | undefined {
  return useQuery(sessionQuery).data
}

/** Whether the signed-in member may make and change things. */
export const mayEdit = (session: Session | undefined) =>
  (session?.role === 'owner' || session?.role === 'editor') && session.archivedAt == null

export const membersQuery = queryOptions({
  queryKey: ['members'],
  queryFn: () =>
    read(api.GET('/api/v1/members', { params: { query: { limit: 500 } } })).then((page) => page.items),
})

const lastWorkspace = 'cursus-workspace'

/** Where a tab belongs that names no workspace though the person has several: the same address in the one this browser showed last. */
export function ownAddress({ workspaces, workspaceKey }: Session): string | undefined {
  if (base !== '') localStorage.setItem(lastWorkspace, workspaceKey)
  if (base !== '' || workspaces.length < 2) return undefined
  const last = localStorage.getItem(lastWorkspace)
  const key = workspaces.some((w) => w.key === last) ? last! : workspaceKey
  return baseOf(key) + location.pathname + location.search + location.hash
}

/** Goes into another workspace, and leads this browser over its short domains on the way. */
export async function enterWorkspace(key: string) {
  const session = await read(apiBelow(baseOf(key)).GET('/api/v1/session'))
  await introduce(session.shortDomains, `/${session.startPage}`, baseOf(key))
}

const patience = 1500

/** Leads this browser over those short domains that answer, so that its visits there are left out of the figures, and ends at `then`. */
export async function introduce(domains: Session['shortDomains'], then: string, below = base) {
  const answering = await Promise.all(
    domains.map(async (d) => ((await answers(d.probe)) ? d.name : undefined)),
  )
  const query = new URLSearchParams(answering.flatMap((name) => (name ? [['domain', name]] : [])))
  query.append('then', below + then)
  location.assign(`${below}/api/v1/session/introduction?${query}`)
}

/** Whether a short domain can be reached from this browser: one that can't would strand it on an error page. */
function answers(picture: string): Promise<boolean> {
  return new Promise((settle) => {
    const probe = new Image()
    probe.onload = () => settle(true)
    probe.onerror = () => settle(false)
    setTimeout(() => settle(false), patience)
    probe.src = picture
  })
}

/** By whose clock days begin and links open and end. */
export const useWorkspaceZone = () => useSession()?.timeZone ?? 'UTC'
