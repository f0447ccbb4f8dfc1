import { ActionIcon, Button, Group, Menu, Text } from '@mantine/core'
import { IconDots } from '@tabler/icons-react'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read } from '../../../api/client'
import type { Channel } from '../../../api/vocabulary'
import { day } from '../../../parts/format/numbers'
import { useSorted } from '../../../parts/Sortable'
import { Signet } from '../../../parts/Signet'
import { tellFailure } from '../../../parts/tellFailure'
import { useSession } from '../../access/session'
import { ChannelEnd, type Ending } from './ChannelEnd'
import { ChannelForm } from './ChannelForm'

interface Props {
  channel: Channel
  others: Channel[]
  mayChange: boolean
}

/** A channel in the list: drag it, edit it in place, retire, merge or delete it. */
export function ChannelRow({ channel, others, mayChange }: Props) {
  const isOwner = useSession()?.role === 'owner'
  const [doing, setDoing] = useState<'edit' | Ending>()
  const { setNode, style, handle } = useSorted(channel.key, channel.name, !mayChange)
  const queries = useQueryClient()
  const reactivate = useMutation({
    mutationFn: () =>
      read(
        api.PATCH('/api/v1/channels/{id}', {
          params: { path: { id: channel.id } },
          body: { retired: false },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['channels'] }),
    onError: tellFailure,
  })
  const done = () => setDoing(undefined)
  return (
    <>
      <tr ref={setNode} style={style}>
        {mayChange && <td style={{ width: 44, paddingRight: 0 }}>{handle}</td>}
        <td>
          <Group gap={10} wrap="nowrap">
            <Signet channel={channel} />
            <span>
              {channel.name}
              {channel.retiredAt && (
                <Text size="sm" c="dimmed">
                  retired {day(channel.retiredAt.slice(0, 10))}
                </Text>
              )}
            </span>
          </Group>
        </td>
        <td>{channel.source}</td>
        <td>{channel.medium}</td>
        <td>{channel.textLimit ?? 'none'}</td>
        {mayChange && (
          <td>
            <Group gap={8} justify="flex-end" wrap="nowrap">
              {channel.retiredAt && (
                <Button
                  size="compact-sm"
                  variant="subtle"
                  loading={reactivate.isPending}
                  aria-label={`Reactivate ${channel.name}`}
                  onClick={() => reactivate.mutate()}
                >
                  Reactivate
                </Button>
              )}
              <Button
                size="compact-sm"
                variant="subtle"
                aria-expanded={doing === 'edit'}
                aria-label={`Edit ${channel.name}`}
                onClick={() => setDoing(doing === 'edit' ? undefined : 'edit')}
              >
                Edit
              </Button>
              <Menu position="bottom-end">
                <Menu.Target>
                  <ActionIcon variant="subtle" aria-label={`More for ${channel.name}`}>
                    <IconDots size={16} aria-hidden />
                  </ActionIcon>
                </Menu.Target>
                <Menu.Dropdown>
                  {!channel.retiredAt && <Menu.Item onClick={() => setDoing('retire')}>Retire</Menu.Item>}
                  {isOwner && others.length > 0 && (
                    <Menu.Item onClick={() => setDoing('merge')}>Merge into another channel</Menu.Item>
                  )}
                  <Menu.Item onClick={() => setDoing('delete')}>Delete</Menu.Item>
                </Menu.Dropdown>
              </Menu>
            </Group>
          </td>
        )}
      </tr>
      {doing && (
        <tr>
          <td colSpan={6} style={{ paddingBlock: 14 }}>
            {doing === 'edit' ? (
              <ChannelForm channel={channel} onDone={done} />
            ) : (
              <ChannelEnd channel={channel} others={others} ending={doing} onDone={done} />
            )}
          </td>
        </tr>
      )}
    </>
  )
}
