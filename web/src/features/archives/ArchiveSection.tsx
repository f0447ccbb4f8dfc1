import { Alert, Button, FileButton, Group, Stack, Text } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { within } from '../../api/address'
import { api, asFile, read } from '../../api/client'
import { count, timeOf } from '../../parts/format/numbers'
import { Failed } from '../../parts/States'
import { useSession } from '../access/session'

/** The whole workspace as one file to take away, and back from it. */
export function ArchiveSection() {
  const isOwner = useSession()?.role === 'owner'
  const queries = useQueryClient()
  const bringIn = useMutation({
    mutationFn: (file: File) => read(api.POST('/api/v1/archive', asFile(file, 'application/zip'))),
    onSuccess: () => queries.invalidateQueries(),
  })
  if (!isOwner) return <Text c="dimmed">Only owners can export or import the whole workspace.</Text>
  return (
    <Stack gap="sm" maw={640}>
      <Text c="dimmed">
        Everything in this workspace as one ZIP of plain files: links and their history, posts, vocabulary,
        pixels, QR codes and every click. Passwords and tokens are not included.
      </Text>
      <Group gap={8}>
        <Button component="a" href={within('/api/v1/archive')} download variant="default">
          Export the workspace
        </Button>
        <FileButton onChange={(file) => file && bringIn.mutate(file)} accept="application/zip,.zip">
          {(props) => (
            <Button variant="default" loading={bringIn.isPending} {...props}>
              Import an archive
            </Button>
          )}
        </FileButton>
      </Group>
      <Text size="sm" c="dimmed">
        Import an archive into a workspace that has no links. It replaces that workspace’s settings.
      </Text>
      {bringIn.isError && <Failed error={bringIn.error} />}
      {bringIn.data && (
        <Alert variant="default" role="status" title="Imported">
          {count(bringIn.data.links)} links, {count(bringIn.data.posts)} posts and{' '}
          {count(bringIn.data.clicks)} clicks by people of {bringIn.data.from}, as of{' '}
          {timeOf(bringIn.data.madeAt)}.
        </Alert>
      )}
    </Stack>
  )
}
