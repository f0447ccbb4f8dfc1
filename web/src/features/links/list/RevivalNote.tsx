import { Alert, Button, Text } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, read } from '../../../api/client'
import { day } from '../../../parts/format/numbers'
import { linkChanged, type Link } from '../links'

/** Says that a link was deleted, and brings it back while its slug is kept. */
export function RevivalNote({ link, mayRevive }: { link: Link; mayRevive: boolean }) {
  const queries = useQueryClient()
  const revive = useMutation({
    mutationFn: () => read(api.POST('/api/v1/links/{id}/revive', { params: { path: { id: link.id } } })),
    onSuccess: (revived) => linkChanged(queries, revived),
  })
  return (
    <Alert variant="default" mt="md" title={`Deleted on ${day(link.deletedAt!.slice(0, 10))}`}>
      <Text size="sm">
        {link.blockedUntil
          ? `Visitors see that it has ended. Its slug is reserved until ${day(link.blockedUntil.slice(0, 10))}.`
          : 'Another link uses its slug now, so it can’t be restored.'}
      </Text>
      {mayRevive && link.blockedUntil && (
        <Button mt="sm" size="sm" loading={revive.isPending} onClick={() => revive.mutate()}>
          Restore
        </Button>
      )}
      {revive.isError && <Text size="sm">{revive.error.message}</Text>}
    </Alert>
  )
}
