import { Button, Group } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import type { QueryClient } from '@tanstack/react-query'
import { api, read } from '../../../api/client'
import { counted } from '../../../parts/format/numbers'
import type { Draft } from '../send/draft'
import type { Post } from './placement'
import { keep } from '../send/useKeptDraft'

const seconds = 1000

/** For ten seconds after saving, all of it can be taken back: the links are gone, and the sheet is as it was. */
export function offerUndo(
  post: Post,
  draft: Draft,
  queries: QueryClient,
  reopen: (draftId: string) => unknown,
) {
  const id = `undo-${post.id}`
  async function undo() {
    notifications.hide(id)
    try {
      await read(api.POST('/api/v1/posts/{id}/undo', { params: { path: { id: post.id } } }))
      await keep(draft)
      for (const queryKey of [['links'], ['drafts'], ['find']]) await queries.invalidateQueries({ queryKey })
      await reopen(draft.id)
    } catch (error) {
      notifications.show({ color: 'red', message: (error as Error).message, autoClose: 8 * seconds })
    }
  }
  notifications.show({
    id,
    autoClose: 10 * seconds,
    message: (
      <Group justify="space-between" wrap="nowrap">
        Saved {counted(post.placements.length, 'link')}
        <Button size="compact-sm" variant="default" onClick={() => void undo()}>
          Undo
        </Button>
      </Group>
    ),
  })
}
