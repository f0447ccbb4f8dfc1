import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, read, type Schema } from '../../../api/client'
import { counted } from '../../../parts/format/numbers'
import { linkChanged, linkQuery, seen, type Link } from '../links'

export type Route = Schema['RouteBody']
export type Rule = NonNullable<Route['rules']>[number]
export type When = NonNullable<Rule['when']>
export type RoutedPage = NonNullable<Rule['to']>[number]
export type RouteFigures = Schema['RouteFiguresResponse']
export type BranchFigures = RouteFigures['branches'][number]
export type Trial = Schema['LinkRoutesTrial']

/** Fields that ask for conditions of a rule. */
export interface ConditionProps {
  when: When
  /** What is wrong with a condition; with all of them where none is named. */
  errorOf: (field?: keyof When) => string | undefined
  onChange: (part: Partial<When>) => void
}

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

/** Checks rules that no link has yet; they come back with their conditions in words. */
export const useCheckedRoute = () =>
  useMutation({ mutationFn: (route: Route) => read(api.POST('/api/v1/routes/check', { body: route })) })

/** A route in a few words. */
export function routeWords({ rules, otherwise }: Route) {
  const parts = [
    rules?.length ? counted(rules.length, 'rule') : '',
    otherwise?.to?.length ? `split over ${counted(otherwise.to.length, 'page')}` : '',
  ].filter(Boolean)
  return parts.length > 0 ? parts.join(', ') : 'none'
}

/** How many people took each way of a link. */
export const figuresQuery = (link: Link) =>
  queryOptions({
    queryKey: ['links', 'routes', link.id, link.version, 'figures'],
    queryFn: () => read(api.GET('/api/v1/links/{id}/routes/figures', { params: { path: { id: link.id } } })),
  })

/** What clicks of the last 90 days came by, most of all first: what a rule is likely to ask for. */
export const seenQuery = (by: 'os' | 'network') =>
  queryOptions({
    queryKey: ['breakdown', 'seen', by],
    queryFn: async () =>
      (
        await read(
          api.GET('/api/v1/reports/breakdown', {
            params: { query: { by, period: 'last-90', compare: 'none' } },
          }),
        )
      ).rows.flatMap((row) => (row.key ? [row.label] : [])),
  })

/** What a made-up visitor of a link gets. */
export const useTriedRoute = (link: Link) =>
  useMutation({
    mutationFn: (trial: Trial) =>
      read(api.POST('/api/v1/links/{id}/routes/try', { params: { path: { id: link.id } }, body: trial })),
  })
