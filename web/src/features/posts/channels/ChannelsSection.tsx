import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core'
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import { Anchor, Button, Group } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { api, read } from '../../../api/client'
import { vocabulary, type Channel } from '../../../api/vocabulary'
import { Sheet } from '../../../parts/Sheet'
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
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  if (channels.isError) return <Failed error={channels.error} onRetry={() => void channels.refetch()} />
  if (!channels.data) return <Loading />
  const all = channels.data
  const place = (key: unknown) => all.findIndex((channel) => channel.key === key)
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) order.mutate(arrayMove(all, place(active.id), place(over.id)))
  }
  const nameOf = (key: unknown) => all[place(key)]?.name ?? ''
  return (
    <>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={onDragEnd}
        accessibility={{
          screenReaderInstructions: {
            draggable: 'Press space to pick up, arrow keys to move, space to drop, escape to cancel.',
          },
          announcements: {
            onDragStart: ({ active }) => `${nameOf(active.id)} picked up.`,
            onDragOver: ({ active, over }) =>
              over ? `${nameOf(active.id)} is at place ${place(over.id) + 1} of ${all.length}.` : undefined,
            onDragEnd: ({ active, over }) =>
              over ? `${nameOf(active.id)} moved to place ${place(over.id) + 1}.` : 'Not moved.',
            onDragCancel: () => 'Not moved.',
          },
        }}
      >
        <SortableContext items={all.map((channel) => channel.key)} strategy={verticalListSortingStrategy}>
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
        </SortableContext>
      </DndContext>
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
