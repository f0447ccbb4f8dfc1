import { Button, Group, Text } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, Problem, read } from '../../../api/client'
import { tellFailure } from '../../../parts/tellFailure'
import { count, counted } from '../../../parts/format/numbers'
import { linksChanged, type LinkChange, type Selection, type BulkEdit } from '../links'

const seconds = 1000

/** Changes many links at once; tells how far it is, and offers to take it back. */
export function useBulkChange() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: async (request: { links: Selection; change: BulkEdit; isGoodOnly?: boolean }) => {
      let change = await read(api.POST('/api/v1/link-changes', { body: { isGoodOnly: false, ...request } }))
      while (change.state === 'running') {
        tellProgress(change)
        await new Promise((later) => setTimeout(later, 500))
        change = await read(api.GET('/api/v1/link-changes/{id}', { params: { path: { id: change.id } } }))
      }
      notifications.hide(change.id)
      if (change.state === 'failed') throw new Problem(409, 'change-failed', change.failure ?? '')
      return change
    },
    onSuccess: async (change) => {
      await linksChanged(queries)
      offerUndo(change, () => linksChanged(queries))
    },
  })
}

function tellProgress(change: LinkChange) {
  const stop = () =>
    void read(api.POST('/api/v1/link-changes/{id}/cancel', { params: { path: { id: change.id } } }))
  const told = {
    id: change.id,
    autoClose: false as const,
    withCloseButton: false,
    message: (
      <Group justify="space-between" wrap="nowrap">
        <Text size="sm">
          {count(change.done)} of {counted(change.total, 'link')}
        </Text>
        <Button size="compact-sm" variant="default" onClick={stop}>
          Stop
        </Button>
      </Group>
    ),
  }
  notifications.show(told)
  notifications.update(told)
}

function offerUndo(change: LinkChange, refresh: () => Promise<unknown>) {
  const id = `undo-${change.id}`
  notifications.show({
    id,
    autoClose: 10 * seconds,
    message: (
      <Group justify="space-between" wrap="nowrap">
        {change.links === 0 ? 'Nothing to change' : `Changed ${counted(change.links, 'link')}`}
        {change.links > 0 && (
          <Button
            size="compact-sm"
            variant="default"
            onClick={() => {
              notifications.hide(id)
              void undoChange(change.id).then(refresh)
            }}
          >
            Undo
          </Button>
        )}
      </Group>
    ),
  })
}

/** Takes a change back, and says what came of it. */
export async function undoChange(id: string) {
  try {
    const undone = await read(api.POST('/api/v1/link-changes/{id}/undo', { params: { path: { id } } }))
    notifications.show({
      autoClose: 6 * seconds,
      message: `${counted(undone.links, 'link')} restored${
        undone.changedSince > 0 ? `; ${count(undone.changedSince)} changed since and left alone` : ''
      }`,
    })
  } catch (error) {
    tellFailure(error as Error)
  }
}
