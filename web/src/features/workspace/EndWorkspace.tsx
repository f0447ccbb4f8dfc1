import { Button, Group, Text, Title } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read, wordsOf } from '../../api/client'
import { dayOf } from '../../parts/format/numbers'
import { ProofForm } from '../access/ProofForm'
import { useSession } from '../access/session'

/** Puts the workspace away, for a time or for good. */
export function EndWorkspace() {
  const session = useSession()
  const queries = useQueryClient()
  const [isDeleting, setIsDeleting] = useState(false)
  const end = useMutation({
    mutationFn: (to: 'archive' | 'restore') => read(api.POST(`/api/v1/workspace/${to}`)),
    onSuccess: () => queries.invalidateQueries(),
  })
  if (session?.role !== 'owner') return null
  return (
    <section aria-label="Archive or delete">
      <Title order={2} size={18} mt="xl" mb={4}>
        Archive or delete
      </Title>
      <Text c="dimmed" size="sm" mb="sm" maw={560}>
        {session.archivedAt
          ? `Archived on ${dayOf(session.archivedAt)}${session.deleteAt ? `, and deleted on ${dayOf(session.deleteAt)} with all its links and clicks` : ''}.`
          : 'In an archived workspace links go on working and reports can be read, but nothing can be changed. A deleted one can be restored for 30 days; then its links, clicks and members’ places are gone for good.'}
      </Text>
      {isDeleting ? (
        <ProofForm
          title="Delete workspace"
          submit="Delete in 30 days"
          color="red"
          name={{ label: 'Name of the workspace', description: `Type “${session.workspace}”` }}
          run={(body) => read(api.POST('/api/v1/workspace/delete', { body }))}
          onDone={() => {
            setIsDeleting(false)
            void queries.invalidateQueries()
          }}
          onCancel={() => setIsDeleting(false)}
        />
      ) : (
        <Group gap={8}>
          <Button
            variant="default"
            loading={end.isPending}
            onClick={() => end.mutate(session.archivedAt ? 'restore' : 'archive')}
          >
            {session.archivedAt ? 'Restore workspace' : 'Archive workspace'}
          </Button>
          {!session.deleteAt && (
            <Button variant="default" onClick={() => setIsDeleting(true)}>
              Delete workspace
            </Button>
          )}
        </Group>
      )}
      {end.error && <div role="alert">{wordsOf(end.error)}</div>}
    </section>
  )
}
