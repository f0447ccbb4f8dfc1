import { Button, Group, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, read } from '../../api/client'
import { vocabulary } from '../../api/vocabulary'
import { AddForm } from '../../parts/AddForm'
import { Sheet } from '../../parts/Sheet'
import { Signet } from '../../parts/Signet'
import { Failed, Loading } from '../../parts/States'
import { mayEdit, useSession } from '../access/session'

export function ChannelsSection() {
  const channels = useQuery(vocabulary.channels)
  const session = useSession()
  const queries = useQueryClient()
  const form = useForm({ initialValues: { name: '', source: '', medium: 'social' } })
  const add = useMutation({
    mutationFn: ({ name, source, medium }: typeof form.values) =>
      read(api.POST('/api/v1/channels', { body: { name, source: source.trim() || null, medium } })),
    onSuccess: async () => {
      form.reset()
      await queries.invalidateQueries({ queryKey: ['channels'] })
    },
  })
  if (channels.isError) return <Failed error={channels.error} onRetry={() => void channels.refetch()} />
  if (!channels.data) return <Loading />
  return (
    <>
      <Sheet
        about="Each channel carries the source and medium that its links are counted under. Agreed once, they are never typed again."
        columns={['Channel', 'Key', 'Source', 'Medium', 'Text limit']}
      >
        {channels.data.map((channel) => (
          <tr key={channel.id}>
            <td>
              <Group gap={10}>
                <Signet channel={channel} />
                {channel.name}
              </Group>
            </td>
            <td>{channel.key}</td>
            <td>{channel.source}</td>
            <td>{channel.medium}</td>
            <td>{channel.textLimit ?? 'none'}</td>
          </tr>
        ))}
      </Sheet>
      {mayEdit(session) && (
        <AddForm error={add.error} onSubmit={form.onSubmit((values) => add.mutate(values))}>
          <TextInput label="Name of a new channel" required {...form.getInputProps('name')} />
          <TextInput label="Source" placeholder="as the name" {...form.getInputProps('source')} />
          <TextInput label="Medium" required {...form.getInputProps('medium')} />
          <Button type="submit" loading={add.isPending}>
            Add channel
          </Button>
        </AddForm>
      )}
    </>
  )
}
