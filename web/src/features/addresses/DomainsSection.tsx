import { Button, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, read } from '../../api/client'
import { vocabulary, type Domain } from '../../api/vocabulary'
import { AddForm } from '../../parts/AddForm'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { introduce, sessionQuery, useSession } from '../access/session'

export function DomainsSection() {
  const domains = useQuery(vocabulary.domains)
  const isOwner = useSession()?.role === 'owner'
  const queries = useQueryClient()
  const form = useForm({ initialValues: { name: '' } })
  const refresh = () => queries.invalidateQueries({ queryKey: ['domains'] })
  const add = useMutation({
    mutationFn: (body: typeof form.values) => read(api.POST('/api/v1/domains', { body })),
    onSuccess: async (domain) => {
      form.reset()
      await refresh()
      const { shortDomains } = await queries.fetchQuery({ ...sessionQuery, staleTime: 0 })
      const added = shortDomains.filter((d) => d.name === domain.name)
      if (added.length > 0) await introduce(added, '/set-up?part=domains')
    },
  })
  if (domains.isError) return <Failed error={domains.error} onRetry={() => void domains.refetch()} />
  if (!domains.data) return <Loading />
  return (
    <>
      <Sheet
        about="Short links stand on domains of your own: people trust them, and they stay yours. Names under .localhost work on this machine at once; any other name works when it points here."
        columns={['Short domain', 'State', 'Bare domain leads to', '']}
      >
        {domains.data.map((domain) => (
          <DomainRow key={domain.id} domain={domain} mayChange={isOwner} onChanged={refresh} />
        ))}
      </Sheet>
      {isOwner && (
        <AddForm error={add.error} onSubmit={form.onSubmit((values) => add.mutate(values))}>
          <TextInput
            label="Name of a new short domain"
            placeholder="go.example.org"
            required
            {...form.getInputProps('name')}
          />
          <Button type="submit" loading={add.isPending}>
            Add domain
          </Button>
        </AddForm>
      )}
    </>
  )
}

function DomainRow(props: { domain: Domain; mayChange: boolean; onChanged: () => Promise<void> }) {
  const { domain, mayChange, onChanged } = props
  const makeDefault = useMutation({
    mutationFn: () =>
      read(
        api.PATCH('/api/v1/domains/{id}', { params: { path: { id: domain.id } }, body: { isDefault: true } }),
      ),
    onSuccess: onChanged,
  })
  return (
    <tr>
      <td>{domain.name}</td>
      <td>
        {domain.isVerified ? (
          <span style={{ color: 'var(--good)' }}>answers{domain.isDefault && ', default for new links'}</span>
        ) : (
          <span style={{ color: 'var(--caution)' }}>does not point here yet</span>
        )}
      </td>
      <td>{domain.barePage ?? 'a plain page'}</td>
      <td>
        {mayChange && domain.isVerified && !domain.isDefault && (
          <Button
            size="compact-sm"
            variant="subtle"
            loading={makeDefault.isPending}
            onClick={() => makeDefault.mutate()}
          >
            Make default
          </Button>
        )}
        {makeDefault.isError && makeDefault.error.message}
      </td>
    </tr>
  )
}
