import { Anchor, Button, Group } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { api, read } from '../../../api/client'
import { vocabulary, type Channel } from '../../../api/vocabulary'
import { Sheet } from '../../../parts/Sheet'
import { Sortable } from '../../../parts/Sortable'
import { Failed, Loading } from '../../../parts/States'
import { tellFailure } from '../../../parts/tellFailure'
import { mayEdit, useSession } from '../../access/session'
import { ChannelForm } from './ChannelForm'
import { ChannelRow } from './ChannelRow'

/** All channels in the order of Send, which is changed by dragging or by the keyboard. */
export function ChannelsSection() {
  const channels = useQuery(vocabulary.channels)
  const mayChange = mayEdit(useSession())
  const [isAdding, setIsAdding] = useState(false)
  const order = useOrder()
  if (channels.isError) return <Failed error={channels.error} onRetry={() => void channels.refetch()} />
  if (!channels.data) return <Loading />
  const all = channels.data
  const named = new Map(all.map((channel) => [channel.key, channel]))
  return (
    <>
      <Sortable
        ids={[...named.keys()]}
        nameOf={(key) => named.get(key)?.name ?? ''}
        onOrder={(keys) => order.mutate(keys.map((key) => named.get(key)!))}
      >
        <Sheet
          about="Each channel sets the source and medium of its links, so nobody has to type them. Send shows channels in this order."
          columns={[
            ...(mayChange ? ['Order'] : []),
            'Channel',
            'Source',
            'Medium',
            'Text limit',
            ...(mayChange ? [''] : []),
          ]}
        >
          {all.map((channel) => (
            <ChannelRow
              key={channel.id}
              channel={channel}
              others={all.filter((other) => other !== channel)}
              mayChange={mayChange}
            />
          ))}
        </Sheet>
      </Sortable>
      {mayChange && (
        <div style={{ marginTop: 18 }}>
          {isAdding ? (
            <ChannelForm onDone={() => setIsAdding(false)} />
          ) : (
            <Group gap={16}>
              <Button onClick={() => setIsAdding(true)}>Add channel</Button>
              <Anchor size="sm" component={Link} to="/send/many">
                Suggest channels from a list of old links
              </Anchor>
            </Group>
          )}
        </div>
      )}
    </>
  )
}

/** Saves an order; the list shows it at once, and the one before where saving fails. */
function useOrder() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (ordered: Channel[]) =>
      read(api.PUT('/api/v1/channels/order', { body: { keys: ordered.map((channel) => channel.key) } })),
    onMutate: (ordered) => queries.setQueryData(vocabulary.channels.queryKey, ordered),
    onError: tellFailure,
    onSettled: () => queries.invalidateQueries({ queryKey: ['channels'] }),
  })
}
