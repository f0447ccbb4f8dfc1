import { Button, Group, Text } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { clockOf, counted } from '../../../parts/format/numbers'
import { mayEdit, useSession } from '../../access/session'
import { changesQuery, linksChanged } from '../links'
import { undoChange } from '../bulk/useBulkChange'

/** The last change of many links, as long as it can be taken back. */
export function RecentChanges() {
  const session = useSession()
  const queries = useQueryClient()
  const changes = useQuery(changesQuery)
  const undo = useMutation({ mutationFn: undoChange, onSuccess: () => linksChanged(queries) })
  const last = changes.data?.find((change) => change.undoUntil)
  if (!last || !mayEdit(session)) return null
  return (
    <Group gap={10} mt={10}>
      <Text size="sm" c="dimmed">
        {counted(last.links, 'link')} {last.what}
      </Text>
      <Button
        size="compact-sm"
        variant="subtle"
        loading={undo.isPending}
        onClick={() => undo.mutate(last.id)}
      >
        Undo, until {clockOf(last.undoUntil!)}
      </Button>
    </Group>
  )
}
