import { Alert, Button, Group, Select, Text } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read } from '../../../api/client'
import type { Channel } from '../../../api/vocabulary'
import { counted } from '../../../parts/format/numbers'
import { Failed } from '../../../parts/States'

export type Ending = 'retire' | 'merge' | 'delete'

interface Props {
  channel: Channel
  others: Channel[]
  ending: Ending
  onDone: () => void
}

/** Retires, merges or deletes a channel, after saying what that changes. */
export function ChannelEnd({ channel, others, ending, onDone }: Props) {
  const queries = useQueryClient()
  const path = { params: { path: { id: channel.id } } }
  const [into, setInto] = useState<string | null>(null)
  const usage = useQuery({
    queryKey: ['channels', 'usage', channel.id],
    queryFn: () => read(api.GET('/api/v1/channels/{id}/usage', path)),
    staleTime: 0,
  })
  const end = useMutation<unknown>({
    mutationFn: () => {
      if (ending === 'retire')
        return read(api.PATCH('/api/v1/channels/{id}', { ...path, body: { retired: true } }))
      if (ending === 'merge')
        return read(api.POST('/api/v1/channels/{id}/merge', { ...path, body: { into } }))
      return read(api.DELETE('/api/v1/channels/{id}', path))
    },
    onSuccess: async () => {
      // A merge changes what every report and list says of the two.
      await queries.invalidateQueries(ending === 'merge' ? undefined : { queryKey: ['channels'] })
      onDone()
    },
  })
  const used = usage.data
  const goesTo = others.find((other) => other.key === into)?.name ?? 'the other channel'
  const [title, action] = {
    retire: [`Retire ${channel.name}?`, 'Retire channel'],
    merge: [`Merge ${channel.name} into another channel`, 'Merge channels'],
    delete: [`Delete ${channel.name}?`, 'Delete channel'],
  }[ending]
  const isBlocked = !used || (ending === 'merge' && !into) || (ending === 'delete' && used.links > 0)
  return (
    <Alert role="alertdialog" aria-label={title} variant="default" title={title}>
      {used && (
        <Text size="sm">
          {ending === 'retire' &&
            `It disappears from Send and takes no new links. Its ${counted(used.links, 'link')} keep working and stay in reports. You can reactivate it at any time.`}
          {ending === 'merge' &&
            `${counted(used.links, 'link')} in ${counted(used.posts, 'post')}, with all their clicks, and ${counted(used.sites, 'referring site')} will count for ${goesTo}, in past reports too. Short links, and the source and medium in their addresses, don’t change. This can’t be undone.`}
          {ending === 'delete' &&
            (used.links > 0
              ? `It has ${counted(used.links, 'link')}, so it can’t be deleted. Retire it, or merge it into another channel.`
              : 'It has no links, so no clicks are lost.')}
          {ending !== 'merge' &&
            used.recipes > 0 &&
            ` ${counted(used.recipes, 'recipe uses', 'recipes use')} it; ${used.recipes === 1 ? 'that recipe' : 'those recipes'} will leave it out.`}
        </Text>
      )}
      {ending === 'merge' && (
        <Select
          mt="sm"
          maw={280}
          label="Merge into"
          placeholder="Choose a channel"
          data={others.map((other) => ({ value: other.key, label: other.name }))}
          value={into}
          onChange={setInto}
        />
      )}
      <Group gap={8} mt="sm" mb={4}>
        <Button
          color={ending === 'retire' ? undefined : 'red'}
          disabled={isBlocked}
          loading={end.isPending || usage.isLoading}
          onClick={() => end.mutate()}
        >
          {action}
        </Button>
        <Button variant="default" data-autofocus autoFocus onClick={onDone}>
          Cancel
        </Button>
      </Group>
      {(end.error ?? usage.error) && <Failed error={(end.error ?? usage.error)!} />}
    </Alert>
  )
}
