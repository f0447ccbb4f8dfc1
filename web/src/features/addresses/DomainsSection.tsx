import { Button, Menu, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read } from '../../api/client'
import { vocabulary, type Domain } from '../../api/vocabulary'
import { AddForm } from '../../parts/AddForm'
import { NameActions } from '../../parts/NameActions'
import { day } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { checkSummaryQuery } from '../checking/checks'
import { takeFile } from '../../parts/files/takeFile'
import { DomainForm } from './DomainForm'
import { DomainRecords } from './DomainRecords'
import { introduce, sessionQuery, useSession } from '../access/session'

export function DomainsSection() {
  // Somebody who has just set a record watches for it to be seen.
  const domains = useQuery({ ...vocabulary.domains, refetchInterval: 5000 })
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
      if (added.length > 0) await introduce(added, '/settings/domains')
    },
  })
  if (domains.isError) return <Failed error={domains.error} onRetry={() => void domains.refetch()} />
  if (!domains.data) return <Loading />
  return (
    <>
      <Sheet
        about="Short links use your own domains: people trust them, and they stay yours. Names under .localhost work on this machine straight away; any other name works once it points here."
        columns={['Short domain', 'State', 'Bare domain redirects to', '']}
      >
        {domains.data.map((domain) => (
          <DomainRow key={domain.id} domain={domain} mayChange={isOwner} onChanged={refresh} />
        ))}
      </Sheet>
      {isOwner && (
        <AddForm error={add.error} onSubmit={form.onSubmit((values) => add.mutate(values))}>
          <TextInput
            label="New short domain"
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
  const needsCare = domain.records.length > 0 && (!domain.isVerified || domain.failingSince != null)
  const [isOpen, setIsOpen] = useState(needsCare)
  const makeDefault = useMutation({
    mutationFn: () =>
      read(
        api.PATCH('/api/v1/domains/{id}', { params: { path: { id: domain.id } }, body: { isDefault: true } }),
      ),
    onSuccess: onChanged,
  })
  return (
    <>
      <tr>
        <td>{domain.shown}</td>
        <td>
          <State domain={domain} />
        </td>
        <td>{domain.barePage ?? 'a plain page'}</td>
        <td style={{ textAlign: 'right' }}>
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
          {domain.isVerified && <RedirectsMenu domain={domain} />}
          {(mayChange || domain.records.length > 0) && (
            <Button
              size="compact-sm"
              variant="subtle"
              aria-expanded={isOpen}
              aria-label={`Details of ${domain.shown}`}
              onClick={() => setIsOpen(!isOpen)}
            >
              {isOpen ? 'Less' : 'Details'}
            </Button>
          )}
          {makeDefault.isError && makeDefault.error.message}
        </td>
      </tr>
      {isOpen && (
        <tr>
          <td colSpan={4}>
            {domain.records.length > 0 && <DomainRecords domain={domain} mayCheck={mayChange} />}
            {mayChange && domain.isVerified && <DomainForm domain={domain} onDone={onChanged} />}
            {mayChange && (
              <NameActions
                name={domain.shown}
                loses="Only a short domain without links can be deleted."
                onDelete={() =>
                  read(api.DELETE('/api/v1/domains/{id}', { params: { path: { id: domain.id } } })).then(
                    onChanged,
                  )
                }
              />
            )}
          </td>
        </tr>
      )}
    </>
  )
}

/** The domain's redirects to keep elsewhere, so that what is printed outlives Cursus. */
function RedirectsMenu({ domain }: { domain: Domain }) {
  const forms = { nginx: 'A map for nginx', apache: 'A map for Apache', pages: 'Plain pages, as a ZIP' }
  return (
    <Menu position="bottom-end">
      <Menu.Target>
        <Button size="compact-sm" variant="subtle" aria-label={`Export the redirects of ${domain.shown}`}>
          Redirects
        </Button>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Label>All redirects, for another server</Menu.Label>
        {Object.entries(forms).map(([form, label]) => (
          <Menu.Item
            key={form}
            component="a"
            {...takeFile(`/api/v1/domains/${domain.id}/redirects?form=${form}`)}
          >
            {label}
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  )
}

function State({ domain }: { domain: Domain }) {
  const summary = useQuery(checkSummaryQuery)
  const ending = summary.data?.certificates.find((certificate) => certificate.domain === domain.name)
  if (!domain.isVerified) return <span style={{ color: 'var(--caution)' }}>doesn’t point here yet</span>
  if (domain.failingSince) return <span style={{ color: 'var(--bad)' }}>its records have changed</span>
  if (ending)
    return (
      <span style={{ color: 'var(--caution)' }}>
        its certificate ends on {day(ending.endsAt.slice(0, 10))}
      </span>
    )
  return <span style={{ color: 'var(--good)' }}>working{domain.isDefault && ', default for new links'}</span>
}
