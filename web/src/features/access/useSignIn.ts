import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useSearch } from '@tanstack/react-router'
import { api, read } from '../../api/client'
import { introduce, sessionQuery } from './session'

/** Signs in and goes where the person wanted to go. */
export function useSignIn() {
  const queries = useQueryClient()
  const { then } = useSearch({ from: '/sign-in' })
  return useMutation({
    mutationFn: (body: { email: string; password: string }) => read(api.POST('/api/v1/session', { body })),
    onSuccess: async () => {
      queries.clear()
      const session = await queries.fetchQuery(sessionQuery)
      await introduce(session.shortDomains, then ?? '/send')
    },
  })
}
