import { queryOptions } from '@tanstack/react-query'
import { api, read, type Schema } from '../../api/client'

export type Account = Schema['ProfileResponse']

export const accountQuery = queryOptions({
  queryKey: ['account'],
  queryFn: () => read(api.GET('/api/v1/account')),
})

export const signInsQuery = queryOptions({
  queryKey: ['sign-ins'],
  queryFn: () =>
    read(api.GET('/api/v1/account/sign-ins', { params: { query: { limit: 500 } } })).then(
      (page) => page.items,
    ),
})
