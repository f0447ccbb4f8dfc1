import { Alert, Button, FileButton, Group, Stack, Text, Title } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, asFile, read } from '../../api/client'
import { count, timeOf } from '../../parts/numbers'
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
  if (!isOwner) return null
  return (
    <Stack gap="sm" mt="xl" maw={640}>
      <Title order={2} size={18}>
        Archive
      </Title>
      <Text c="dimmed">
        Everything that this workspace holds, its links with their history, posts, words, pixels, QR codes and
        every click, as one ZIP of plain files. Passwords and tokens stay here.
      </Text>
      <Group gap={8}>
        <Button component="a" href="/api/v1/archive" download variant="default">
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
        An archive is imported into a workspace without links, and replaces what was set up there.
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
