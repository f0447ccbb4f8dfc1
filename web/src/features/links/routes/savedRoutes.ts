import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, read, type Schema } from '../../../api/client'
import { vocabulary } from '../../../api/vocabulary'
import type { Route } from './routes'

export type SavedRoute = Schema['SavedRoutesResponse']

/** The saved route of an id, once all are there. */
export const useRouteOf = (id: string | null | undefined) => {
  const routes = useQuery({ ...vocabulary.routes, enabled: Boolean(id) })
  return id ? routes.data?.find((route) => route.id === id) : undefined
}

/** How a saved route was before each of its changes, the present one first. */
export const routeHistoryQuery = ({ id, version }: SavedRoute) =>
  queryOptions({
    queryKey: ['routes', id, 'history', version],
    queryFn: async () =>
      (await read(api.GET('/api/v1/routes/{id}/history', { params: { path: { id } } }))).items,
  })

/** Saves rules under a name, or changes a saved route with all links that follow it. */
export function useRouteKept() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ id, ...body }: { id?: string; name?: string; routes?: Route }) =>
      read(
        id
          ? api.PATCH('/api/v1/routes/{id}', { params: { path: { id } }, body })
          : api.POST('/api/v1/routes', { body }),
      ),
    onSuccess: () =>
      Promise.all([['routes'], ['links']].map((queryKey) => queries.invalidateQueries({ queryKey }))),
  })
}
