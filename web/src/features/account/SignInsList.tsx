import { Button, Text } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, read, wordsOf } from '../../api/client'
import { dayOf, timeOf } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { signInsQuery } from './account'

/** The browsers in which the person is signed in, each with a way to end it. */
export function SignInsList() {
  const signIns = useQuery(signInsQuery)
  const queries = useQueryClient()
  const refresh = () => queries.invalidateQueries({ queryKey: ['sign-ins'] })
  const end = useMutation({
    mutationFn: (id: string) =>
      read(api.DELETE('/api/v1/account/sign-ins/{id}', { params: { path: { id } } })),
    onSuccess: refresh,
  })
  const endOthers = useMutation({
    mutationFn: () => read(api.DELETE('/api/v1/account/sign-ins')),
    onSuccess: refresh,
  })
  if (signIns.isError) return <Failed error={signIns.error} onRetry={() => void signIns.refetch()} />
  if (!signIns.data) return <Loading rows={2} />
  const error = end.error ?? endOthers.error
  return (
    <>
      <Sheet columns={['Browser', 'Signed in', 'Last used', '']}>
        {signIns.data.map((signIn) => (
          <tr key={signIn.id}>
            <td>
              {signIn.device ?? 'Unknown browser'}
              <Text size="sm" c="dimmed" style={{ overflowWrap: 'anywhere' }}>
                {[signIn.place, signIn.address].filter(Boolean).join(', ') || 'Unknown place'}
              </Text>
            </td>
            <td>{timeOf(signIn.createdAt)}</td>
            <td>{signIn.isCurrent ? 'now, here' : dayOf(signIn.lastUsedAt)}</td>
            <td style={{ textAlign: 'right' }}>
              {!signIn.isCurrent && (
                <Button
                  size="compact-sm"
                  variant="subtle"
                  aria-label={`Sign out ${signIn.device ?? 'the unknown browser'}, signed in ${timeOf(signIn.createdAt)}`}
                  loading={end.isPending && end.variables === signIn.id}
                  onClick={() => end.mutate(signIn.id)}
                >
                  Sign out
                </Button>
              )}
            </td>
          </tr>
        ))}
      </Sheet>
      {signIns.data.length > 1 && (
        <Button mt="sm" variant="default" loading={endOthers.isPending} onClick={() => endOthers.mutate()}>
          Sign out all others
        </Button>
      )}
      {error && <div role="alert">{wordsOf(error)}</div>}
    </>
  )
}
