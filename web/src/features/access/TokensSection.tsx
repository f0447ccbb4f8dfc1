import { Alert, Button, Code, Text, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, read } from '../../api/client'
import { AddForm } from '../../parts/AddForm'
import { copy } from '../../parts/files/copy'
import { day } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'

export function TokensSection() {
  const queries = useQueryClient()
  const tokens = useQuery({
    queryKey: ['tokens'],
    queryFn: () => read(api.GET('/api/v1/tokens', { params: { query: { limit: 500 } } })),
  })
  const refresh = () => queries.invalidateQueries({ queryKey: ['tokens'] })
  const form = useForm({ initialValues: { name: '' } })
  const make = useMutation({
    mutationFn: (body: typeof form.values) => read(api.POST('/api/v1/tokens', { body })),
    onSuccess: async () => {
      form.reset()
      await refresh()
    },
  })
  const revoke = useMutation({
    mutationFn: (id: string) => read(api.DELETE('/api/v1/tokens/{id}', { params: { path: { id } } })),
    onSuccess: refresh,
  })
  if (tokens.isError) return <Failed error={tokens.error} onRetry={() => void tokens.refetch()} />
  if (!tokens.data) return <Loading rows={3} />
  return (
    <>
      <Sheet
        about="A token lets a program act as you. The API is documented at /api/reference."
        columns={['Token for', 'Starts with', 'Created', 'Last used', '']}
      >
        {tokens.data.items.map((token) => (
          <tr key={token.id}>
            <td>{token.name}</td>
            <td>
              <Code>{token.start}…</Code>
            </td>
            <td>{day(token.createdAt.slice(0, 10))}</td>
            <td>{token.lastUsedAt ? day(token.lastUsedAt.slice(0, 10)) : 'never'}</td>
            <td>
              <Button
                size="compact-sm"
                variant="subtle"
                aria-label={`Revoke the token for ${token.name}`}
                loading={revoke.isPending && revoke.variables === token.id}
                onClick={() => revoke.mutate(token.id)}
              >
                Revoke
              </Button>
            </td>
          </tr>
        ))}
      </Sheet>
      {tokens.data.items.length === 0 && (
        <Text c="dimmed" mt="sm">
          You have no tokens yet.
        </Text>
      )}
      {revoke.isError && <Failed error={revoke.error} />}
      {make.data && (
        <Alert mt="md" variant="default" title={`Token for ${make.data.name} (shown only once)`}>
          <Code block>{make.data.token}</Code>
          <Button
            mt="sm"
            size="compact-md"
            variant="default"
            onClick={() => void copy('Token', make.data.token)}
          >
            Copy token
          </Button>
        </Alert>
      )}
      <AddForm error={make.error} onSubmit={form.onSubmit((values) => make.mutate(values))}>
        <TextInput label="Which program is it for?" required {...form.getInputProps('name')} />
        <Button type="submit" loading={make.isPending}>
          Create token
        </Button>
      </AddForm>
    </>
  )
}
