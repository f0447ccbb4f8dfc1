import { queryOptions } from '@tanstack/react-query'
import { api, read } from '../../api/client'

/** Whom the workspace asks before pixels fire, and how the handoff page looks. */
export const handoffQuery = queryOptions({
  queryKey: ['handoff'],
  queryFn: () => read(api.GET('/api/v1/handoff')),
})
