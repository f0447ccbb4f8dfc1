import { Button, Select, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, read, type Schema } from '../../api/client'
import { useChannels, type Channel } from '../../api/vocabulary'
import { AddForm } from '../../parts/AddForm'
import { count } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Empty, Failed, Loading } from '../../parts/States'
import { mayEdit, useSession } from '../access/session'

type Referrer = Schema['ReferrersSeenResponse']

const own = '·own'

const choices = (channels: ReadonlyMap<string, Channel>) => [
  { value: own, label: 'Our own site' },
  ...[...channels.values()].map(({ key, name }) => ({ value: key, label: name })),
]

/** Which channel the visitors of a site came over: what everybody knows, and what this workspace knows better. */
export function ReferrersSection() {
  const referrers = useQuery({
    queryKey: ['referrers'],
    queryFn: () => read(api.GET('/api/v1/referrers')),
  })
  const channels = useChannels()
  const isEditor = mayEdit(useSession())
  const queries = useQueryClient()
  const refresh = () =>
    Promise.all(
      [['referrers'], ['breakdown'], ['series']].map((queryKey) => queries.invalidateQueries({ queryKey })),
    )
  const say = useMutation({
    mutationFn: ({ host, belongsTo }: { host: string; belongsTo: string }) =>
      read(
        api.POST('/api/v1/referrer-rules', { body: { host, channel: belongsTo === own ? null : belongsTo } }),
      ),
    onSuccess: async () => {
      form.reset()
      await refresh()
    },
  })
  const takeBack = useMutation({
    mutationFn: (id: string) => read(api.DELETE('/api/v1/referrer-rules/{id}', { params: { path: { id } } })),
    onSuccess: refresh,
  })
  const form = useForm({ initialValues: { host: '', belongsTo: own } })
  if (referrers.isError) return <Failed error={referrers.error} onRetry={() => void referrers.refetch()} />
  if (!referrers.data) return <Loading rows={5} />
  return (
    <>
      {referrers.data.length === 0 ? (
        <Empty title="No referring sites yet">
          Sites are listed here as soon as someone follows one of your links from them. You can assign a site
          to a channel in advance.
        </Empty>
      ) : (
        <Sheet
          about="Sites your visitors came from in the last 90 days. Assign each to a channel, and Compare shows which links were shared elsewhere."
          columns={['Site', 'Clicks', 'Belongs to', '']}
        >
          {referrers.data.map((site) => (
            <tr key={site.host}>
              <td>
                <Link to="/compare" search={{ by: 'link', referrer: site.host }} style={{ color: 'inherit' }}>
                  {site.host}
                </Link>
              </td>
              <td>{count(site.clicks)}</td>
              <td>
                <BelongsTo
                  site={site}
                  channels={channels}
                  isEditor={isEditor}
                  onSay={(belongsTo) => say.mutate({ host: site.host, belongsTo })}
                />
              </td>
              <td style={{ textAlign: 'right' }}>
                {isEditor && site.rule && (
                  <Button size="compact-sm" variant="subtle" onClick={() => takeBack.mutate(site.rule!)}>
                    Unassign
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </Sheet>
      )}
      {takeBack.isError && <Failed error={takeBack.error} />}
      {isEditor && (
        <AddForm error={say.error} onSubmit={form.onSubmit((values) => say.mutate(values))}>
          <TextInput
            label="Site"
            placeholder="forum.northmoor.example"
            required
            {...form.getInputProps('host')}
          />
          <Select
            label="Belongs to"
            allowDeselect={false}
            data={choices(channels)}
            {...form.getInputProps('belongsTo')}
          />
          <Button type="submit" loading={say.isPending}>
            Assign
          </Button>
        </AddForm>
      )}
    </>
  )
}

function BelongsTo(props: {
  site: Referrer
  channels: ReadonlyMap<string, Channel>
  isEditor: boolean
  onSay: (belongsTo: string) => void
}) {
  const { site, channels } = props
  if (!props.isEditor)
    return site.isOwn ? 'Our own site' : (channels.get(site.channel ?? '')?.name ?? site.network ?? '')
  return (
    <Select
      size="xs"
      w={{ base: 130, sm: 200 }}
      aria-label={`Channel of ${site.host}`}
      placeholder={site.network ?? 'Not known'}
      allowDeselect={false}
      data={choices(channels)}
      value={site.isOwn ? own : (site.channel ?? null)}
      onChange={(belongsTo) => belongsTo && props.onSay(belongsTo)}
    />
  )
}
