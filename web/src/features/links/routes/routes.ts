import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, read, type Schema } from '../../../api/client'
import { linkChanged, linkQuery, seen, type Link } from '../links'

export type Route = Schema['RouteBody']
export type Rule = NonNullable<Route['rules']>[number]
export type RoutedPage = NonNullable<Rule['to']>[number]

/** The rules of a link, as they are in the version that is seen. */
export const routesQuery = (link: Link) =>
  queryOptions({
    queryKey: ['links', 'routes', link.id, link.version],
    queryFn: () => read(api.GET('/api/v1/links/{id}/routes', { params: { path: { id: link.id } } })),
  })

/** Saves the rules of a link as a whole; its history takes that back. */
export function useSavedRoute(link: Link) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (route: Route) =>
      read(
        api.PUT('/api/v1/links/{id}/routes', {
          params: { path: { id: link.id } },
          headers: seen(link),
          body: route,
        }),
      ),
    onSuccess: async () =>
      linkChanged(queries, await queries.fetchQuery({ ...linkQuery(link.id), staleTime: 0 })),
  })
}
