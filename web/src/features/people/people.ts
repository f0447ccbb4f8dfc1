import { queryOptions } from '@tanstack/react-query'
import { api, read, type Schema } from '../../api/client'
import { useChangeOf } from '../../api/useChangeOf'

export type Member = Schema['MembersResponse']
export type Invitation = Schema['InvitationsResponse']
export type MadeInvitations = Schema['InvitationsMadeAll']

const all = { params: { query: { limit: 500 } } }

export const invitationsQuery = queryOptions({
  queryKey: ['invitations'],
  queryFn: () => read(api.GET('/api/v1/invitations', all)).then((page) => page.items),
})

/** A change of who belongs here: afterwards both lists are read again, and who is asking, whose role may have changed. */
export const useChange = <Variables = void, Data = unknown>(
  change: (variables: Variables) => Promise<Data>,
) => useChangeOf(['members', 'invitations', 'session'], change)
