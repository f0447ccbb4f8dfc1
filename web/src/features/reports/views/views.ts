import { queryOptions } from '@tanstack/react-query'
import { api, read, type Schema } from '../../../api/client'

export type SavedView = Schema['SavedViewsResponse']
export type ViewShare = Schema['ViewSharesResponse']

/** Questions that the workspace keeps, pinned ones first. */
export const viewsQuery = queryOptions({
  queryKey: ['views'],
  queryFn: () =>
    read(api.GET('/api/v1/views', { params: { query: { limit: 500 } } })).then((page) => page.items),
})
