import { infiniteQueryOptions, keepPreviousData, queryOptions, type QueryClient } from '@tanstack/react-query'
import { api, read, type Schema } from '../../api/client'
import { filterOf, type LinksSearch } from './filter/linksSearch'

export type Link = Schema['LinkResponse']
export type LinkVersion = Schema['LinkHistoryEntry']
export type LinkChange = Schema['BulkEditsResponse']
export type Selection = Schema['LinkSelection']
export type BulkEdit = Schema['BulkEditRequest']

/** Links as the view asks for them, a page at a time. */
export const linksQuery = (search: LinksSearch) => {
  const asked = { ...filterOf(search), sort: search.sort }
  return infiniteQueryOptions({
    queryKey: ['links', asked],
    queryFn: ({ pageParam }) =>
      read(
        api.GET('/api/v1/links', {
          params: { query: { ...asked, limit: 100, cursor: pageParam || undefined } },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (page) => page.nextCursor,
    placeholderData: keepPreviousData,
  })
}

/** The ids of the links that the view is narrowed to, as many as one answer holds. */
export const findIds = async (search: LinksSearch) =>
  (
    await read(api.GET('/api/v1/links', { params: { query: { ...filterOf(search), limit: 500 } } }))
  ).items.map((link) => link.id)

export const linkQuery = (id: string) =>
  queryOptions({
    queryKey: ['links', 'one', id],
    queryFn: () => read(api.GET('/api/v1/links/{id}', { params: { path: { id } } })),
    // A new destination is checked within seconds, and whoever has just made the link is watching.
    refetchInterval: ({ state }) => (state.data?.check?.verdict === 'not-yet' ? 3_000 : 30_000),
  })

export const historyQuery = (link: Link) =>
  queryOptions({
    queryKey: ['links', 'history', link.id, link.version, link.clicks],
    queryFn: () =>
      read(api.GET('/api/v1/links/{id}/history', { params: { path: { id: link.id } } })).then(
        (page) => page.items,
      ),
    placeholderData: keepPreviousData,
  })

export const filtersQuery = queryOptions({
  queryKey: ['saved-filters'],
  queryFn: () =>
    read(api.GET('/api/v1/saved-filters', { params: { query: { limit: 500 } } })).then((page) => page.items),
})

/** Changes of many links that were made a moment ago. */
export const changesQuery = queryOptions({
  queryKey: ['link-changes'],
  queryFn: () =>
    read(api.GET('/api/v1/link-changes', { params: { query: { limit: 3 } } })).then((page) => page.items),
  refetchInterval: 60_000,
})

/** The header that says which version of a link was before somebody's eyes. */
export const seen = (link: Pick<Link, 'version'>) => ({ 'If-Match': `"${link.version}"` })

/** Shows a changed link at once, and asks for everything that tells of links anew. */
export async function linkChanged(queries: QueryClient, link: Link) {
  queries.setQueryData(['links', 'one', link.id], link)
  await linksChanged(queries)
}

export const linksChanged = (queries: QueryClient) =>
  Promise.all(
    [['links'], ['folders'], ['tags'], ['posts'], ['find'], ['link-changes'], ['link-checks']].map(
      (queryKey) => queries.invalidateQueries({ queryKey }),
    ),
  )
