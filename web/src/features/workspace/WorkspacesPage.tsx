import { Anchor, Button, Group, Select, Stack, Text, TextInput, Title } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery } from '@tanstack/react-query'
import { baseOf } from '../../api/address'
import { api, apiBelow, fieldErrors, read, wordsOf, type Schema } from '../../api/client'
import { FormError } from '../../parts/FormError'
import { count, dayOf } from '../../parts/format/numbers'
import { timeZones } from '../../parts/format/timeZones'
import { Page } from '../../parts/Page'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { enterWorkspace, useSession } from '../access/session'

type Workspace = Schema['WorkspacesResponse']

const workspacesQuery = {
  queryKey: ['workspaces'],
  queryFn: () =>
    read(api.GET('/api/v1/workspaces', { params: { query: { limit: 500 } } })).then((page) => page.items),
}

/** All workspaces of the person side by side: an agency’s morning look. */
export function WorkspacesPage() {
  const workspaces = useQuery(workspacesQuery)
  const isOwner = useSession()?.role === 'owner'
  return (
    <Page title="Workspaces">
      {workspaces.isPending && <Loading rows={3} />}
      {workspaces.isError && <Failed error={workspaces.error} onRetry={() => void workspaces.refetch()} />}
      {workspaces.data && (
        <>
          <AtWork workspaces={workspaces.data.filter((w) => w.archivedAt == null)} />
          <Archived workspaces={workspaces.data.filter((w) => w.archivedAt != null)} />
          {isOwner && <NewWorkspace owned={workspaces.data.filter((w) => w.role === 'owner')} />}
        </>
      )}
    </Page>
  )
}

function AtWork({ workspaces }: { workspaces: Workspace[] }) {
  if (workspaces.length === 0) return <Text>All your workspaces are archived.</Text>
  return (
    <Sheet
      about="Clicks of the last 28 days against the 28 days before, the channel that most came from, and destinations that need attention."
      columns={['Workspace', 'Clicks', 'Most from', 'Needs attention']}
    >
      {workspaces.map((workspace) => (
        <WorkspaceRow key={workspace.key} workspace={workspace} />
      ))}
    </Sheet>
  )
}

/** One workspace, asked within its own addresses, so that each row comes when it is there. */
function WorkspaceRow({ workspace: { key, name, role, isCurrent, unreadDigest } }: { workspace: Workspace }) {
  const below = apiBelow(baseOf(key))
  const clicks = useQuery({
    queryKey: ['workspaces', key, 'clicks'],
    queryFn: () =>
      read(
        below.GET('/api/v1/reports/breakdown', {
          params: { query: { by: 'channel', period: 'last-28', compare: 'previous' } },
        }),
      ),
  })
  const care = useQuery({
    queryKey: ['workspaces', key, 'care'],
    queryFn: () => read(below.GET('/api/v1/link-checks/summary')),
  })
  const [leader, total] = [clicks.data?.rows[0], clicks.data?.total]
  return (
    <tr>
      <td>
        <Anchor href={`${baseOf(key)}/compare`}>{name}</Anchor>
        <Text size="sm" c="dimmed">
          {role}
          {isCurrent && ', shown here'}
          {unreadDigest && (
            <>
              {' · '}
              <Anchor href={`${baseOf(key)}/digest`} underline="always" inherit>
                unread digest
              </Anchor>
            </>
          )}
        </Text>
      </td>
      <td>
        {clicks.isError ? wordsOf(clicks.error) : total ? count(total.clicks) : '…'}
        {total?.previousClicks != null && (
          <Text size="sm" c="dimmed">
            {count(total.previousClicks)} before
          </Text>
        )}
      </td>
      <td>{leader && leader.clicks > 0 ? `${leader.label}, ${count(leader.clicks)}` : clicks.data && '–'}</td>
      <td>
        {care.data &&
          (care.data.needCare > 0 ? (
            <Anchor href={`${baseOf(key)}/needs-attention`}>{count(care.data.needCare)}</Anchor>
          ) : (
            'nothing'
          ))}
      </td>
    </tr>
  )
}

/** Those that are put away. They are restored in their own settings. */
function Archived({ workspaces }: { workspaces: Workspace[] }) {
  if (workspaces.length === 0) return null
  return (
    <>
      <Title order={2} size={18} mt="xl" mb="sm">
        Archived
      </Title>
      <Sheet columns={['Workspace', 'Archived', 'Deleted']}>
        {workspaces.map((w) => (
          <tr key={w.key}>
            <td>
              <Anchor href={`${baseOf(w.key)}/settings/workspace`}>{w.name}</Anchor>
            </td>
            <td>{dayOf(w.archivedAt!)}</td>
            <td>{w.deleteAt ? dayOf(w.deleteAt) : 'no'}</td>
          </tr>
        ))}
      </Sheet>
    </>
  )
}

function NewWorkspace({ owned }: { owned: Workspace[] }) {
  const form = useForm({ initialValues: { name: '', timeZone: '', copyFrom: '' } })
  const make = useMutation({
    mutationFn: (body: typeof form.values) => read(api.POST('/api/v1/workspaces', { body })),
    onSuccess: ({ key }) => enterWorkspace(key),
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  return (
    <>
      <Title order={2} size={18} mt="xl" mb={4}>
        New workspace
      </Title>
      <form aria-label="New workspace" onSubmit={form.onSubmit((values) => make.mutate(values))}>
        <Stack gap="sm" maw={420}>
          <TextInput
            label="Name"
            description="For example a client’s. Its links, figures and members are kept apart from all others."
            required
            {...form.getInputProps('name')}
          />
          <Select
            label="Set up as"
            description="Copies channels, tags, folders, UTM values, recipes, QR code styles and settings"
            allowDeselect={false}
            data={[
              { value: '', label: 'Empty' },
              ...owned.map(({ key, name }) => ({ value: key, label: name })),
            ]}
            {...form.getInputProps('copyFrom')}
          />
          <Select
            label="Time zone"
            searchable
            allowDeselect={false}
            data={[
              { value: '', label: form.values.copyFrom ? 'As there' : 'As here' },
              ...timeZones.map((zone) => ({ value: zone, label: zone })),
            ]}
            {...form.getInputProps('timeZone')}
          />
          <FormError error={make.error} form={form} />
          <Group>
            <Button type="submit" loading={make.isPending || make.isSuccess}>
              Create workspace
            </Button>
          </Group>
        </Stack>
      </form>
    </>
  )
}
