import { queryOptions, useQueryClient } from '@tanstack/react-query'
import { api, read, type Schema } from '../../../api/client'

export type TwoStep = Schema['TwoStepStateResponse']

export const twoStepQuery = queryOptions({
  queryKey: ['two-step'],
  queryFn: () => read(api.GET('/api/v1/account/two-step')),
})

/** Once something about it has changed: other browsers may be signed out now, and workspaces open that asked for it. */
export function useTwoStepChanged() {
  const queries = useQueryClient()
  return () =>
    Promise.all(
      ['two-step', 'sign-ins', 'session', 'members'].map((key) =>
        queries.invalidateQueries({ queryKey: [key] }),
      ),
    )
}
