import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query'
import { api, read, type Schema } from '../../api/client'
import type { LinksSearch } from '../../router'

export type Link = Schema['LinkResponse']

/** Links as the view asks for them, a page at a time, newest first. */
export const linksQuery = ({ query, campaign, channel, tag, folder, batch }: LinksSearch) =>
  infiniteQueryOptions({
    queryKey: ['links', { query, campaign, channel, tag, folder, batch }],
    queryFn: ({ pageParam }) =>
      read(
        api.GET('/api/v1/links', {
          params: {
            query: {
              query,
              campaign,
              channel,
              tag,
              folder,
              batch,
              limit: 100,
              cursor: pageParam || undefined,
            },
          },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (page) => page.nextCursor,
  })

/** The ids of all links that the view is narrowed to, as many as one request may name. */
export const allLinks = async ({ query, campaign, channel, tag, folder, batch }: LinksSearch) =>
  (
    await read(
      api.GET('/api/v1/links', {
        params: { query: { query, campaign, channel, tag, folder, batch, limit: 500 } },
      }),
    )
  ).items.map((link) => link.id)

export const linkQuery = (id: string) =>
  queryOptions({
    queryKey: ['links', 'one', id],
    queryFn: () => read(api.GET('/api/v1/links/{id}', { params: { path: { id } } })),
    refetchInterval: 30_000,
  })
