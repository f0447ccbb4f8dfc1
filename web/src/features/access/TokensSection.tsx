import { Alert, Button, Code, Select, Text, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, read, type Schema } from '../../api/client'
import { AddForm } from '../../parts/AddForm'
import { copy } from '../../parts/files/copy'
import { dayOf } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { rolesBelow, withArticle, type Role } from './roles'
import { useSession } from './session'

type Scope = Schema['TokenScope']

const scopes = [
  { value: 'read', label: 'Read' },
  { value: 'make-links', label: 'Read, and make links' },
  { value: 'everything', label: 'Everything' },
] as const

/** For how many days tokens work. */
const lives = [
  { value: '', label: 'Never' },
  { value: '30', label: 'In 30 days' },
  { value: '90', label: 'In 90 days' },
  { value: '365', label: 'In a year' },
]

const inDays = (days: string) =>
  days === '' ? null : new Date(Date.now() + Number(days) * 86_400_000).toISOString()

export function TokensSection() {
  const session = useSession()
  const queries = useQueryClient()
  const tokens = useQuery({
    queryKey: ['tokens'],
    queryFn: () => read(api.GET('/api/v1/tokens', { params: { query: { limit: 500 } } })),
  })
  const refresh = () => queries.invalidateQueries({ queryKey: ['tokens'] })
  const form = useForm({ initialValues: { name: '', scope: 'read' as Scope, role: '', days: '' } })
  const make = useMutation({
    mutationFn: ({ name, scope, role, days }: typeof form.values) =>
      read(
        api.POST('/api/v1/tokens', {
          body: { name, scope, role: role === '' ? null : (role as Role), expiresAt: inDays(days) },
        }),
      ),
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
        about="A token lets a program act as you, or with less. The API is documented at /api/reference."
        columns={['Token for', 'May', 'Expires', 'Last used', '']}
      >
        {tokens.data.items.map((token) => (
          <tr key={token.id}>
            <td>
              {token.name}
              <Text size="sm" c="dimmed">
                <Code>{token.start}…</Code> since {dayOf(token.createdAt)}
              </Text>
            </td>
            <td>
              {scopes.find((scope) => scope.value === token.scope)?.label}
              <Text size="sm" c="dimmed">
                as {withArticle(token.role)}
              </Text>
            </td>
            <td>{token.expiresAt ? dayOf(token.expiresAt) : 'never'}</td>
            <td>{token.lastUsedAt ? dayOf(token.lastUsedAt) : 'never'}</td>
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
        <Select
          label="It may"
          w={190}
          allowDeselect={false}
          data={scopes.map(({ value, label }) => ({ value, label }))}
          {...form.getInputProps('scope')}
        />
        <Select
          label="With the role"
          w={150}
          allowDeselect={false}
          data={[
            { value: '', label: 'Mine' },
            ...rolesBelow(session?.role).map(({ value, label }) => ({ value, label })),
          ]}
          {...form.getInputProps('role')}
        />
        <Select label="Expires" w={140} allowDeselect={false} data={lives} {...form.getInputProps('days')} />
        <Button type="submit" loading={make.isPending}>
          Create token
        </Button>
      </AddForm>
    </>
  )
}
