import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useSearch } from '@tanstack/react-router'
import { api, Problem, read } from '../../api/client'
import { openPasskey } from './passkeys'
import { introduce, sessionQuery } from './session'

/** Signs in and goes where the person wanted to go. */
export function useSignIn() {
  const enter = useEnter()
  const { then } = useSearch({ from: '/sign-in' })
  return useMutation({
    mutationFn: (body: { email: string; password: string; code?: string }) =>
      read(api.POST('/api/v1/session', { body })),
    onSuccess: () => enter(then),
  })
}

/** Signs in with a passkey that the person chooses in the browser. */
export function usePasskeySignIn() {
  const enter = useEnter()
  const { then } = useSearch({ from: '/sign-in' })
  return useMutation({
    mutationFn: async () => {
      const options = await read(api.POST('/api/v1/session/passkey/begin'))
      const credential = await openPasskey(options)
      await read(api.POST('/api/v1/session/passkey', { body: { credential } }))
    },
    onSuccess: () => enter(then),
  })
}

/** Whether the password was right and the second step is what is missing. */
export const asksSecondStep = (error: Error | null) =>
  error instanceof Problem && (error.code === 'second-step' || error.code === 'wrong-code')

/** Goes into the application in a browser that has just been signed in: to a place, or to where this person likes to begin. */
export function useEnter() {
  const queries = useQueryClient()
  return async (then?: string) => {
    queries.clear()
    let session
    try {
      session = await queries.fetchQuery(sessionQuery)
    } catch (error) {
      // Signed in, but at the address of a workspace that isn’t this person’s.
      if (!(error instanceof Problem) || error.code !== 'no-such-workspace') throw error
      location.assign('/')
      return
    }
    await introduce(session.shortDomains, then ?? `/${session.startPage}`)
  }
}
