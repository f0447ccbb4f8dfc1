import { Button, Group, Text } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { IconDownload } from '@tabler/icons-react'
import { useMutation } from '@tanstack/react-query'
import { wordsOf } from '../../api/client'
import { count, counted } from '../../parts/format/numbers'
import { saveFile } from '../../parts/files/saveFile'
import { reportOf, type Batch, type BatchRequest, type Preview } from './batches'

interface Props {
  batch: Batch
  preview: Preview
  request: BatchRequest
}

/** What making the list would come to, in one line, with the whole of it to take along. */
export function Outcomes({ batch, preview, request }: Props) {
  const report = useMutation({
    mutationFn: async () =>
      saveFile(await reportOf(batch.id, request), `${batch.name.replace(/\.[^.]*$/, '')} report.csv`),
    onError: (error) => notifications.show({ color: 'red', message: wordsOf(error) }),
  })
  const bad = preview.lines - preview.goodLines
  const parts = [
    counted(preview.links, 'new link') + (preview.renamed ? ` (${count(preview.renamed)} renamed)` : ''),
    preview.takenOver > 0 && `${count(preview.takenOver)} updated`,
    preview.skipped > 0 && `${count(preview.skipped)} skipped`,
    preview.newFolders.length > 0 && counted(preview.newFolders.length, 'new folder'),
    bad > 0 && `${counted(bad, 'line')} to correct`,
  ].filter(Boolean)
  return (
    <Group justify="space-between" gap={12} mt={18}>
      <Text role="status" aria-label="Preview" title={preview.newFolders.join('\n')}>
        {parts.join(' · ')}
      </Text>
      <Button
        variant="default"
        size="sm"
        loading={report.isPending}
        leftSection={<IconDownload size={16} aria-hidden />}
        onClick={() => report.mutate()}
      >
        Full report
      </Button>
    </Group>
  )
}
